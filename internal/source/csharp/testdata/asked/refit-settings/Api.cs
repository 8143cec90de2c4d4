using System.Text.Json;
using System.Text.Json.Serialization;
using Refit;
public interface IPortsApi { [Get("/ports/{code}")] Task<Port> Get(string code); } // asks Port GET /ports/{code}
public class Port { public string? PortCode { get; set; } public PortKind Kind { get; set; } public int Berths { get; set; } }
public enum PortKind { FerryPort, CargoPort }
public class Api
{
    public Task<Port> Load(HttpClient http)
    {
        var settings = new RefitSettings(new SystemTextJsonContentSerializer(new JsonSerializerOptions { PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower }));
        return RestService.For<IPortsApi>(http, settings).Get("SAL");
    }
}
