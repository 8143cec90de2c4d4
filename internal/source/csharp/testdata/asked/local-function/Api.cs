using System.Net.Http.Json;
public class Api
{
    public async Task<Journey> LoadAsync(HttpClient http)
    {
        return new Journey(await Read("out"), await Read("back"));

        async Task<Leg?> Read(string direction)
        {
            var uri = $"legs/{direction}";
            using var r = await http.GetAsync(uri);
            return r.IsSuccessStatusCode ? await r.Content.ReadFromJsonAsync<Leg>() : null; // asks Leg legs/{}
        }
    }
}
