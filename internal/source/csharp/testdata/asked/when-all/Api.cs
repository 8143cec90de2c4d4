using System.Net.Http.Json;
namespace Saltmere;
public class Overview { public List<Port>? Ports { get; set; } public List<Vessel>? Vessels { get; set; } }
public class Port { public string? Code { get; set; } public int Berths { get; set; } }
public class Vessel { public string? Name { get; set; } public int? Decks { get; set; } }
public class Api
{
    public async Task<Overview> LoadAsync(HttpClient http)
    {
        var ports = http.GetFromJsonAsync<List<Port>>("ports"); // asks List<Port> GET ports
        var vessels = http.GetFromJsonAsync<List<Vessel>>("vessels"); // asks List<Vessel> GET vessels
        await Task.WhenAll(ports, vessels);
        return new Overview { Ports = ports.Result, Vessels = vessels.Result };
    }
}
