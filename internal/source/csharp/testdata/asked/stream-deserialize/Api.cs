using System.Text.Json;
namespace Saltmere;
public sealed class Api
{
    public async Task<List<Notice>?> LoadAsync(HttpClient http)
    {
        await using var body = await http.GetStreamAsync("notices");
        return await JsonSerializer.DeserializeAsync<List<Notice>>(body, Json.Default); // asks List<Notice> notices
    }
}
