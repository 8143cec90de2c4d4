using Saltmere;
public class PortsEnvelope { public Inner? Result { get; set; } public class Inner { public List<Port>? Ports { get; set; } } }
public class Port { public string? Code { get; set; } public int Berths { get; set; } }
public class Api
{
    public Task<List<Port>?> LoadAsync(HttpClient http) => new Client(http).Get<PortsEnvelope, List<Port>?>("ports", e => e.Result?.Ports); // asks PortsEnvelope GET ports
}
