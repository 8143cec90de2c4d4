namespace Saltmere.Net;
public class WeatherService(IApiClient api) { public Task<Weather> Now() => api.GetAsync<Weather>(Endpoints.Weather); } // asks Weather api/v1/weather
public class QueueService(IApiClient api) { public Task<CarQueue> At(string port) => api.GetAsync<CarQueue>(Endpoints.Queue(port)); } // asks CarQueue api/v1/ports/{}/queue
public class Weather { public double? Wind { get; set; } public string? Sky { get; set; } }
public class CarQueue { public int Cars { get; set; } public int? Minutes { get; set; } }
public record Dashboard(Weather Weather, CarQueue Queue);
