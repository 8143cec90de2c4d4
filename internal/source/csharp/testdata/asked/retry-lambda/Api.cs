using System.Net.Http.Json;
public class Weather { public double Wind { get; set; } public string? Sky { get; set; } }
public class Api { public Task<Weather?> Load(HttpClient http) => Retry.Run(() => http.GetFromJsonAsync<Weather>("weather")); } // asks Weather GET weather
