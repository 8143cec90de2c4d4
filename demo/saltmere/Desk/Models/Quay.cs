using System.Text.Json.Serialization;

namespace Saltmere.Desk.Models;

/// <summary>A port, as the desk shows it to those who plan the berths.</summary>
public sealed record Quay
{
    [JsonPropertyName("code")]
    public required string Code { get; init; }

    [JsonPropertyName("name")]
    public required string Name { get; init; }

    [JsonPropertyName("depth")]
    public double Depth { get; init; }

    [JsonPropertyName("berths")]
    public List<QuayBerth> Berths { get; init; } = [];

    [JsonPropertyName("timeZone")]
    public string TimeZone { get; init; } = null!;

    [JsonPropertyName("has_lift")]
    public bool? HasLift { get; init; }
}

public sealed record QuayBerth(
    [property: JsonPropertyName("number")] int Number,
    [property: JsonPropertyName("length")] double Length);
