using System.Net.Http.Json;
using Saltmere.Domain;
using Saltmere.Remote;
public class Api
{
    public async Task<List<Sailing>> LoadAsync(HttpClient http)
    {
        var dtos = await http.GetFromJsonAsync<List<SailingDto>>("sailings") ?? new List<SailingDto>(); // asks List<SailingDto> GET sailings
        return dtos.Select(d => d.ToDomain()).ToList();
    }
}
