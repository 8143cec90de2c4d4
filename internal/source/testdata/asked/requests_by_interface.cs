using System.Text.Json;

namespace Saltmere;

public class Port { public string Code { get; set; } = ""; }
public record Fare(double Amount);

public interface IRequest<TResponse> { string Path { get; } }
public abstract record Get<TResponse>(string Path) : IRequest<TResponse>;
public record GetPorts : IRequest<List<Port>> { public string Path => "v1/ports"; }
public record GetFare(int Id) : Get<Fare>($"v1/fares/{Id}");

public class Sender(HttpClient http)
{
    private static readonly JsonSerializerOptions Options = new() { PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower };

    public async Task<T> Send<T>(IRequest<T> request, CancellationToken cancellation = default)
    {
        using var stream = await http.GetStreamAsync(request.Path, cancellation);
        return (await JsonSerializer.DeserializeAsync<T>(stream, Options, cancellation))!;
    }
}

public class Board(Sender sender)
{
    public async Task Load()
    {
        var ports = await sender.Send(new GetPorts()); // asks List<Port> v1/ports by PropertyNamingPolicy SnakeCaseLower
        var fare = await sender.Send(new GetFare(3)); // asks Fare
    }
}
