import Foundation

/// What the API answers when it refuses a request (RFC 9457).
struct Problem: Decodable, Error {
    let title: String
    let status: Int
    let detail: String
}
