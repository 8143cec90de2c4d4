using System.Text.Json;
public class Tide { public double Height { get; set; } public string? Port { get; set; } }
public class Problem { public int? Code { get; set; } public string? Detail { get; set; } }
public class ProblemException(string text) : Exception(text);
public class Api
{
    static readonly JsonSerializerOptions Options = new() { PropertyNameCaseInsensitive = true };
    public async Task<Tide> LoadAsync(HttpClient http)
    {
        var text = await http.GetStringAsync("tides/now");
        var problem = JsonSerializer.Deserialize<Problem>(text, Options); // asks Problem tides/now
        if (problem is { Code: not null }) throw new ProblemException($"{problem.Code} {problem.Detail}");
        return JsonSerializer.Deserialize<Tide>(text, Options) ?? throw new ProblemException("nothing"); // asks Tide tides/now
    }
}
