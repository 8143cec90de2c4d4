import Foundation

/// A harbour that Saltmere vessels call at.
struct Port: Codable, Hashable {
    typealias Metres = Double

    struct Berth: Codable, Hashable {
        let number: Int
        let length: Metres
    }

    let code: String
    let name: String
    let depth: Metres
    let berths: [Berth]
    let imageURL: URL?      // the API sends image_url
    let timezone: String
    let openSince: Int?
}
