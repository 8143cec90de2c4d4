using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Saltmere;
public class Api
{
    public Task<Crew?> Load(HttpClient http) => Get(http, "crew/1", CrewJson.Default.Crew); // asks Crew GET crew/1
    private static async Task<T?> Get<T>(HttpClient http, string path, JsonTypeInfo<T> info)
    {
        await using var s = await http.GetStreamAsync(path);
        return await JsonSerializer.DeserializeAsync(s, info);
    }
}
