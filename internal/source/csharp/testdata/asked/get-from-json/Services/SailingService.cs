using System.Net.Http.Json;
using Saltmere.App.Models;

namespace Saltmere.App.Services;

public interface ISailingService
{
    Task<List<Sailing>> GetSailingsAsync(CancellationToken cancellationToken = default);
}

public sealed class SailingService(HttpClient http) : ISailingService
{
    public async Task<List<Sailing>> GetSailingsAsync(CancellationToken cancellationToken = default)
        => await http.GetFromJsonAsync<List<Sailing>>("api/sailings", cancellationToken) ?? []; // asks List<Sailing> GET api/sailings
}
