using System.Text.Json;
public readonly record struct Position(double Lat, double Lon, string? Vessel);
public class Api
{
    public async Task<List<Position>> LoadAsync(HttpClient http)
    {
        var list = new List<Position>();
        using var reader = new StreamReader(await http.GetStreamAsync("positions"));
        while (await reader.ReadLineAsync() is { } line)
        {
            if (line.Length == 0) continue;
            list.Add(JsonSerializer.Deserialize<Position>(line, JsonSerializerOptions.Web)); // asks Position positions
        }
        return list;
    }
}
