// document: {"departs_at":"09:30","vesselName":"Tern","seats":4,"boarding":{"gate":"A","deck":1}}
// document: {"departure_time":"09:30","vesselName":"Tern","seats":4,"boarding":{"gate":"B","deck":2},"extra":1}
// lost: 2 exactly
struct Root: Decodable { // want unread-keys boarding,extra
    let departsAt: String // want renamed-key 1/2 in 1 as departure_time
    let vessel_name: String? // want renamed-optional 2/2 in 2 as vesselName
    let seat: Int // want renamed-key 2/2 in 2 as seats
    let gate: String // want moved-key 2/2 in 2 as $.boarding.gate
    let deck: Int? // want moved-optional 2/2 in 2 as $.boarding.deck
    enum CodingKeys: String, CodingKey { case departsAt = "departs_at", vessel_name, seat, gate, deck }
}
