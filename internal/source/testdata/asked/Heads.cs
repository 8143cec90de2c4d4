using System.Text.Json;
public record Head(string type);
public class Fog { public required int visibility { get; set; } }
public class Delay { public required int minutes { get; set; } }
public static class Socket {
  public static object? OnMessage(string text) {
    var head = JsonSerializer.Deserialize<Head>(text); // asks Head
    if (head?.type == "fog") return JsonSerializer.Deserialize<Fog>(text); // asks Fog picked
    if (head?.type == "delay") return JsonSerializer.Deserialize<Delay>(text); // asks Delay picked
    return null;
  }
}
