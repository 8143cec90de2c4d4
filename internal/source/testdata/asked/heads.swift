import Foundation
struct Head: Decodable { let type: String }
struct Fog: Decodable { let visibility: Int }
struct Delay: Decodable { let minutes: Int }
enum Event { case fog(Fog), delay(Delay) }
func event(_ data: Data) throws -> Event? {
    let decoder = JSONDecoder()
    switch try decoder.decode(Head.self, from: data).type { // asks Head
    case "fog": return .fog(try decoder.decode(Fog.self, from: data)) // asks Fog picked
    case "delay": return .delay(try decoder.decode(Delay.self, from: data)) // asks Delay picked
    default: return nil
    }
}
