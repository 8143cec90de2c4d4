using System.Net.Http.Json;
public class Port { public string? Code { get; set; } }
public class Api
{
    public async Task<List<Port?>> LoadAsync(HttpClient http)
    {
        List<Port?> ports = [];
        await foreach (Port? port in http.GetFromJsonAsAsyncEnumerable<Port>("ports")) ports.Add(port); // asks List<Port> ports
        return ports;
    }
}
