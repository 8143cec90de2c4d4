import Foundation

/// A vessel of the fleet, with what it can carry.
struct Vessel: Codable {
    let name: String
    let callSign: String
    var tonnage: Int
    var capacity: Capacity
    let built: Int?
    let website: URL?
    private(set) var crew: [String: Int] = [:] {
        didSet { crewCount = crew.values.reduce(0, +) }
    }
    lazy var crewCount: Int = 0

    private enum CodingKeys: String, CodingKey {
        case name, callSign, tonnage, capacity, built, website, crew
    }
}

extension Vessel {
    struct Capacity: Codable {
        let passengers: Int
        let cars: Int
        let bicycles: Int?
    }

    var isSmall: Bool { tonnage < 500 }
}
