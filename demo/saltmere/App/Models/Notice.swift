import Foundation

/// The notice board of the day.
struct NoticeBoard: Decodable {
    let notices: [Notice]
    let updated: Date
}

struct Notice: Decodable {
    let id: UUID
    let title: String
    let body: String
    let published: Date
    let link: URL?
}
