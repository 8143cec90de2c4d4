using System.Text.Json;
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
}
