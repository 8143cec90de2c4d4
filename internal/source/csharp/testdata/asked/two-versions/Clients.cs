using System.Text.Json;
namespace Saltmere.Fares;
public interface IFareClient { Task<Fare?> Get(string code); }
public sealed class FareClientV1(HttpClient http) : IFareClient
{
    public async Task<Fare?> Get(string code) => JsonSerializer.Deserialize<Fare>(await http.GetStringAsync($"v1/fares/{code}")); // asks Fare v1/fares/{}
}
public sealed class FareClientV2(HttpClient http) : IFareClient
{
    private static readonly JsonSerializerOptions Kebab = new() { PropertyNamingPolicy = JsonNamingPolicy.KebabCaseLower };
    public async Task<Fare?> Get(string code) => JsonSerializer.Deserialize<Fare>(await http.GetStringAsync($"v2/fares/{code}"), Kebab); // asks Fare v2/fares/{}
}
public class Fare { public string? FareCode { get; set; } public decimal BasePrice { get; set; } }
