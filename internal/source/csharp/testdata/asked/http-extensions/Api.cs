namespace Saltmere;
public class Berth { public int No { get; set; } public double? Depth { get; set; } }
public class Api { public async Task<Berth?> Load(HttpClient http) => await http.FetchAsync<Berth>("berths/2"); } // asks Berth berths/2
