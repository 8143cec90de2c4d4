// sent: {"sailing_id":4400,"name":"Ida","seats":"2","promo":"X","travellers":[{"age":41}],"paid_at":1772964000,"kind":"web","note":null,"agree":1,"class":"first"}
// sent: {"sailing_id":4401,"name":"Bo","seats":"1","promo":"Y","travellers":[{"age":"7"}],"paid_at":1772964001,"kind":"web","note":"aisle","agree":0,"class":"first"}
// sent: {"sailing_id":4402,"name":"Cy","seats":"1","promo":"Z","travellers":[],"paid_at":1772964002,"kind":"web","note":"x","agree":0,"class":"first","comment":"late"}
// lost: 0 exactly
struct Root: Encodable { // want unsent-key 3/3 in 3; unsent-optional 1/3 in 1
    let sailing: Int // want sent-renamed 3/3 in 3 as sailing_id
    let name: String
    let seats: Int // want sent-otherwise 3/3 in 3
    let travellers: [Traveller]
    let paidAt: Date // want sent-otherwise 3/3 in 3
    let kind = "web"
    var note: String? // want null-left-out 1/3 in 1
    let agree: Bool // want sent-otherwise 3/3 in 3
    let cabinClass: Class
    let coupon: String? // want unasked-key 3/3 in 3
    @Upper var code: String
    var shown: String { name }
    static let shared = 1
    enum CodingKeys: String, CodingKey {
        case sailing = "sailingNumber", name, seats, travellers, paidAt, kind, note, agree, cabinClass = "class", coupon, code
    }
}

struct Traveller: Encodable {
    let age: Int
}

enum Class: String, Encodable { case first, second }

let encoder: JSONEncoder = {
    let encoder = JSONEncoder()
    encoder.keyEncodingStrategy = .convertToSnakeCase
    encoder.dateEncodingStrategy = .iso8601
    return encoder
}()

func book(_ booking: Root) throws {
    var request = URLRequest(url: URL(string: "https://api.saltmere.example/v2/bookings")!)
    request.httpMethod = "POST"
    request.httpBody = try encoder.encode(booking)
}
