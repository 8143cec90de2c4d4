using Saltmere.Infrastructure;
namespace Saltmere
{
    public enum Hull { SingleHull, Catamaran }
    public class Vessel { public string? Name { get; set; } public Hull Hull { get; set; } public int Decks { get; set; } }

    public class VesselClient
    {
        private readonly HttpClient _http;
        private readonly IJsonSerializer _json;
        public VesselClient(HttpClient http, IJsonSerializer json) => (_http, _json) = (http, json);
        public async Task<Vessel?> Find(string name)
        {
            var text = await _http.GetStringAsync($"vessels/{Uri.EscapeDataString(name)}");
            return _json.Deserialize<Vessel>(text); // asks Vessel vessels/{}
        }
    }
    public class Api { public Task<Vessel?> Load(HttpClient http) => new VesselClient(http, new SystemTextJsonSerializer()).Find("Tern"); }
}
