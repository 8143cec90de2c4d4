using System.Text.Json;
public class Api
{
    const string Path = "crew/7";
    public async Task<Crew?> LoadAsync(HttpClient http)
    {
        using HttpResponseMessage response = await http.GetAsync(Path);
        if (!response.IsSuccessStatusCode) return null;
        var json = await response.Content.ReadAsStringAsync();
        return JsonSerializer.Deserialize<Crew>(json); // asks Crew crew/7
    }
}
