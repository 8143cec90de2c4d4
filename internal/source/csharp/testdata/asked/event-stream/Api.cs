using System.Net.ServerSentEvents;
using System.Text.Json;
public class Reading { public string? Gauge { get; set; } public double? Height { get; set; } }
public class Api
{
    public async Task<List<Reading>> LoadAsync(HttpClient http)
    {
        var readings = new List<Reading>();
        await using var stream = await http.GetStreamAsync("live");
        await foreach (var item in SseParser.Create(stream, (type, data) => JsonSerializer.Deserialize<Reading>(data, JsonSerializerOptions.Web)).EnumerateAsync()) // asks Reading live
        {
            if (item.Data is { } reading) readings.Add(reading);
        }
        return readings;
    }
}
