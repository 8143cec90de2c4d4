using System.Runtime.CompilerServices;
using System.Text.Json;
namespace Saltmere.Tides;
public record Reading(DateTimeOffset At, double Height);
public class Gauge(HttpClient http)
{
    public async IAsyncEnumerable<Reading> Readings([EnumeratorCancellation] CancellationToken token = default)
    {
        await using var body = await http.GetStreamAsync("readings", token);
        await foreach (var reading in JsonSerializer.DeserializeAsyncEnumerable<Reading>(body, JsonSerializerOptions.Web, token)) // asks List<Reading> readings
        {
            if (reading is not null) yield return reading;
        }
    }
}
