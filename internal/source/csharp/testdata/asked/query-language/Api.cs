using System.Net.Http.Json;
using System.Text.Json.Serialization;
namespace Saltmere.Graph;
public sealed class GraphResponse<TData> { public TData? Data { get; set; } public GraphError[]? Errors { get; set; } }
public sealed record GraphError([property: JsonPropertyName("message")] string Message);
public sealed class VesselData { [JsonPropertyName("vessel")] public Vessel? Vessel { get; set; } }
public sealed class Vessel { public string? Name { get; set; } public int Decks { get; set; } }
public class Api
{
    private const string Query = """
        query Vessel($id: Int!) {
          vessel(id: $id) { name decks }
        }
        """;
    public async Task<Vessel?> LoadAsync(HttpClient http)
    {
        var data = await Execute<VesselData>(http, Query, new { id = 5 }); // asks GraphResponse<VesselData> graph
        return data.Vessel;
    }
    private static async Task<T> Execute<T>(HttpClient http, string query, object variables)
    {
        using var response = await http.PostAsJsonAsync("graph", new { query, variables });
        var body = await response.Content.ReadFromJsonAsync<GraphResponse<T>>();
        if (body?.Errors is { Length: > 0 } errors) throw new InvalidOperationException(errors[0].Message);
        return body!.Data!;
    }
}
