using Flurl;
using Flurl.Http;
namespace Saltmere;
public class Sailing
{
    public int Id { get; set; }
    public string? VesselName { get; set; }
    public SailingState State { get; set; }
    public decimal Fare { get; set; }
    public bool? Open { get; set; }
}
public enum SailingState { Planned, OnTime }
public class Api
{
    public async Task<List<Sailing>> LoadAsync(HttpClient http)
    {
        var client = new FlurlClient(http);
        return await client.Request().AppendPathSegment("sailings").SetQueryParams(new { from = "SAL", to = "HOL" }).GetJsonAsync<List<Sailing>>(); // asks List<Sailing> GET sailings
    }
}
