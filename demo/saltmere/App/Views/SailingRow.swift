import SwiftUI

/// A row of the list of sailings. No model: nothing is decoded into it.
struct SailingRow: View {
    let sailing: Sailing
    @State private var expanded = false

    var body: some View {
        VStack(alignment: .leading) {
            Text("\(sailing.from) to \(sailing.to)")
            if expanded { Text(sailing.vessel.name) }
        }
        .onTapGesture { expanded.toggle() }
    }
}
