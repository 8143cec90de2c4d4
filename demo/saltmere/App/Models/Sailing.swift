import Foundation

/// A page of sailings, as GET /v2/sailings answers it.
struct SailingPage: Decodable {
    let sailings: [Sailing]
    let page: Page
}

struct Page: Decodable {
    let number: Int
    let of: Int
}

/// One departure of a vessel from a port.
struct Sailing: Decodable, Identifiable {
    enum Status: String, Decodable {
        case onTime = "on_time"
        case delayed
        case cancelled
        case full
    }

    let id: Int
    let from: String
    let to: String
    let departsAt: Date
    let arrivesAt: Date?
    let vessel: VesselSummary
    let status: Status
    let seatsLeft: Int
    let gate: String
    let notices: [SailingNotice]
    let stops: [String]?

    /// Not decoded: the row's own state.
    static let dayFormat = "d MMMM"
    var isFull: Bool { seatsLeft == 0 || status == .full }
}

struct VesselSummary: Decodable {
    let name: String
    let knots: Int
}

struct SailingNotice: Decodable {
    let text: String
    let severity: Int?
}
