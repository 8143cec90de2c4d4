using System.Net.Http.Json;
using Saltmere;
public class Api { public Task<List<Stop>?> Load(HttpClient http) => http.GetFromJsonAsync("stops", FerryJsonContext.Default.ListStop); } // asks List<Stop> GET stops
