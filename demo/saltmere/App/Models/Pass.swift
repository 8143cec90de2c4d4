import Foundation

/// A season pass. Older servers leave out some keys, so it is read by hand.
struct Pass: Decodable {
    let id: String
    let holder: String
    let ridesLeft: Int
    let active: Bool
    let zones: [String]

    enum CodingKeys: CodingKey {
        case id, holder, ridesLeft, active, zones
    }

    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        id = try c.decode(String.self, forKey: .id)
        holder = try c.decode(String.self, forKey: .holder)
        ridesLeft = try c.decodeIfPresent(Int.self, forKey: .ridesLeft) ?? 0
        active = (try? c.decode(Bool.self, forKey: .active)) ?? false
        zones = try c.decodeIfPresent([String].self, forKey: .zones) ?? []
    }
}
