import Foundation

struct Fog: Decodable { let visibility: Int }
struct Delay: Decodable { let minutes: Int }
struct Port: Decodable { let code: String }
struct Pass: Decodable { let number: String }

func notices(_ data: Data) throws -> [Any] {
    let root = try JSONSerialization.jsonObject(with: data) as! [String: Any]
    var out: [Any] = []
    for item in root["items"] as! [[String: Any]] {
        let raw = try JSONSerialization.data(withJSONObject: item)
        if item["kind"] as? String == "fog" {
            out.append(try JSONDecoder().decode(Fog.self, from: raw)) // asks Fog within items.[*] picked
        } else {
            out.append(try JSONDecoder().decode(Delay.self, from: raw)) // asks Delay within items.[*] picked
        }
    }
    return out
}

func port(_ data: Data) throws -> Port {
    let root = try JSONSerialization.jsonObject(with: data) as! [String: Any]
    let inner = try JSONSerialization.data(withJSONObject: root["port"]!)
    return try JSONDecoder().decode(Port.self, from: inner) // asks Port within port
}

func pass(_ row: [String: Any]) throws -> Pass {
    try JSONDecoder().decode(Pass.self, from: JSONSerialization.data(withJSONObject: row)) // asks Pass of a part
}

struct Berth {
    let no: Int
    init?(_ row: [String: Any]) {
        guard let no = row["no"] as? Int else { return nil }
        self.no = no
    }
}

struct Crane {
    let lift: Int
    init?(_ row: [String: Any]) {
        guard let lift = row["lift"] as? Int else { return nil }
        self.lift = lift
    }
}

func quay(_ data: Data) throws -> [Any] {
    guard let root = try JSONSerialization.jsonObject(with: data) as? [String: Any], let rows = root["rows"] as? [[String: Any]] else { return [] }
    return rows.compactMap { row -> Any? in
        switch row["kind"] as? String {
        case "berth": return Berth(row) // asks Berth picked
        default: return nil
        }
    } + rows.compactMap { Crane($0) }
}
