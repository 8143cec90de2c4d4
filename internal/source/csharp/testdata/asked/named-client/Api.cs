using System.Net.Http.Json;
using Saltmere.Net;
public record Session(string Token, int ExpiresIn, string[]? Scopes);
public class Api
{
    public async Task<Session?> LoadAsync(HttpClient http) => await Open(new HttpClients(http));
    private async Task<Session?> Open(IHttpClients clients)
    {
        var client = clients.CreateClient(ClientNames.Ferries);
        var form = new FormUrlEncodedContent(new Dictionary<string, string> { ["user"] = "rook" });
        var response = await client.PostAsync("session", form);
        return await response.Content.ReadFromJsonAsync<Session>(); // asks Session session
    }
}
