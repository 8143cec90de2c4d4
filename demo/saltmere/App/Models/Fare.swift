import Foundation

/// What a sailing costs, by class of ticket.
struct FareTable: Decodable {
    let currency: String
    let fares: [Fare]
    let discounts: [String: Double]?
}

struct Fare: Decodable {
    enum Ticket: String, Decodable { case adult, child, bicycle, car }

    let ticket: Ticket
    let amount: Decimal
    let taxIncluded: Bool
    let validUntil: Date?
}
