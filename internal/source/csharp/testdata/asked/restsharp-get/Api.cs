using RestSharp;
public class Port { public string? Code { get; set; } public int Berths { get; set; } }
public class Api
{
    public async Task<List<Port>?> LoadAsync(HttpClient http)
    {
        var client = new RestClient(http, new RestClientOptions { ThrowOnAnyError = true });
        return await client.GetAsync<List<Port>>(new RestRequest("ports")); // asks List<Port> GET ports
    }
}
