//
//  Saltmere Ferries, the iOS app.
//
//  Line NNN: what the app knows of its sailings, and what it shows of them.
//
import Combine
import Foundation
import SaltmereCore
import SwiftUI

/// A sailing of line NNN, as GET /v2/lines/NNN/sailings answers it.
struct SailingNNN: Decodable, Identifiable {
    enum Status: String, Decodable { case onTime = "on_time", delayed, cancelled }

    let id: Int
    let from: String, to: String
    /// When it leaves, by the clock of the port that it leaves.
    let departsAt: Date
    let vessel: Vessel
    let status: Status
    let seatsLeft: Int?
    var price = 12.5
    let notices: [Notice]
    let fares: [String: Double]?

    struct Vessel: Decodable { let name: String; let knots: Double }
    struct Notice: Decodable { let text: String; let severity: Int? }
    private enum CodingKeys: String, CodingKey { case id, from, to, departsAt = "departs_at", vessel, status, seatsLeft = "seats_left", notices, fares }

    /// The row's own state: "let ghost: Int" is no property.
    var isFull: Bool { (seatsLeft ?? 0) == 0 && !notices.isEmpty }
    func label(for day: String) -> String { "\(from) to \(to), \(day)" }
}

struct RowNNN: Identifiable, Hashable {
    let id: Int
    let title: String
    let detail: String
    let colour: Color
    let enabled: Bool
}

protocol SailingsNNN {
    func sailings(on day: Date, page: Int) async throws -> [SailingNNN]
    func book(_ id: Int, seats: Int) async throws -> Bool
}

/// The sailings of line NNN on a day, and what can be done with them.
///
/// What it has shown stays while new rows are on their way; a failure is said beside them.
@MainActor
final class ModelNNN: ObservableObject {
    enum State { case loading, shown(stale: Bool), failed(String) }

    @Published private(set) var state = State.loading
    @Published private(set) var rows: [RowNNN] = []
    private let sailings: SailingsNNN
    private let clock: Clock
    private var page = 1
    private lazy var day = clock.today
    private var bag = Set<AnyCancellable>()

    init(sailings: SailingsNNN, clock: Clock = .system) {
        self.sailings = sailings
        self.clock = clock
        NotificationCenter.default.publisher(for: .dayChanged).sink { [weak self] _ in
            Task { await self?.show(self?.clock.today ?? Date()) }
        }.store(in: &bag)
    }

    func show(_ day: Date) async {
        guard day != self.day || rows.isEmpty else { return }
        self.day = day
        page = 1
        rows = []
        await load()
    }

    func more() async {
        page += 1
        await load()
    }

    private func load() async {
        if rows.isEmpty { state = .loading }
        do {
            let found = try await sailings.sailings(on: day, page: page)
            rows += found.filter { $0.status != .cancelled }.map { row(for: $0) }
            state = .shown(stale: false)
        } catch let error as URLError { // the sea is wide, and its network thin
            state = rows.isEmpty ? .failed(error.localizedDescription) : .shown(stale: true)
        } catch {
            Reporter.shared.report("sailings of line NNN: \(error)")
            state = .failed("\(error)")
        }
    }

    private func row(for s: SailingNNN) -> RowNNN {
        let detail: String
        switch (s.isFull, s.seatsLeft) {
        case (true, _): detail = "full"
        case (false, let left?) where left < 10: detail = String(format: "%d seats left", left)
        default: detail = "from " + Money.pounds(s.fares?.values.min() ?? s.price)
        }
        return RowNNN(id: s.id, title: s.label(for: Formats.day.string(from: day)), detail: detail, colour: s.status == .delayed ? .orange : .green, enabled: !s.isFull)
    }

    func book(_ id: Int, seats: Int) async -> Bool {
        precondition((1...3).contains(seats), "between 1 and 3 seats, not \(seats)")
        return (try? await sailings.book(id, seats: seats)) ?? false
    }
}

struct ViewNNN: View {
    @StateObject var model: ModelNNN

    var body: some View {
        List(model.rows) { row in
            HStack {
                VStack(alignment: .leading) {
                    Text(row.title).font(.headline)
                    Text(row.detail).font(.subheadline).foregroundColor(row.colour)
                }
                Spacer()
                if row.enabled { Image(systemName: "chevron.right") }
            }
        }
        .task { await model.show(Date()) }
        .refreshable { await model.more() }
    }
}
