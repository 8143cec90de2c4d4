using System.Text.Json;
using System.Xml.Serialization;
using Newtonsoft.Json;
using Saltmere.Desk.Models;
using JsonSerializer = System.Text.Json.JsonSerializer;

namespace Saltmere.Desk;

/// <summary>What the desk asks the ferries' API for.</summary>
public sealed class DeskClient(HttpClient http)
{
    private const string Version = "v2";

    public async Task<List<Quay>> QuaysAsync(CancellationToken token = default)
    {
        await using var body = await http.GetStreamAsync($"{Version}/ports", token);
        return await JsonSerializer.DeserializeAsync<List<Quay>>(body, cancellationToken: token) ?? [];
    }

    public async Task<IReadOnlyList<Crossing>> CrossingsAsync(string from)
    {
        var text = await http.GetStringAsync($"{Version}/sailings?from={from}");
        var list = JsonConvert.DeserializeObject<CrossingList>(text);
        return list?.Crossings ?? throw new JsonException("no sailings");
    }

    public async Task<Timetable> TimetableAsync()
    {
        await using var body = await http.GetStreamAsync($"{Version}/timetable");
        return (Timetable)new XmlSerializer(typeof(Timetable)).Deserialize(body)!;
    }

    internal async Task<Manifest> ManifestAsync(int sailing)
    {
        var text = await http.GetStringAsync($"{Version}/sailings/{sailing}/manifest");
        return (Manifest)new XmlSerializer(typeof(Manifest)).Deserialize(new StringReader(text))!;
    }
}
