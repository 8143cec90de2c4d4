using System.Text.Json.Serialization;
using Saltmere.Net;
public class Fare { [JsonPropertyName("price")] public decimal Price { get; set; } [JsonPropertyName("currency")] public string Currency { get; set; } = "SMD"; }
public class Api { public Task<Fare> LoadAsync(HttpClient http) => new ApiClient(http).GetAsync<Fare>("fares/A"); } // asks ApiResult<Fare> fares/A
