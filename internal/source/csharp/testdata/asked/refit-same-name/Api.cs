using Refit;
public class Tide { public double height { get; set; } public double? Height { get; set; } }
public interface ITides { [Get("/tides/now")] Task<Tide> Now(); } // asks Tide GET /tides/now
public class Api { public Task<Tide> Load(HttpClient http) => RestService.For<ITides>(http).Now(); }
