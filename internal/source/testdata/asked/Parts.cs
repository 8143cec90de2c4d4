using System.Collections.Generic;
using System.Linq;
using System.Text.Json;
using System.Text.Json.Nodes;
using Newtonsoft.Json;
using Newtonsoft.Json.Linq;

public class Port { public string Code { get; set; } = ""; }
public class Berth { public int No { get; set; } }
public class Crane { public int Lift { get; set; } }
public class Fog { public int Visibility { get; set; } }
public class Delay { public int Minutes { get; set; } }
public class Pass { public string Number { get; set; } = ""; }
public class Tide { public double Height { get; set; } }
public class Fare { public decimal Price { get; set; } }
public class Pier { public int No { get; set; } }
public class Vessel { public string Name { get; set; } = ""; }

public static class Parts
{
    public static List<Port> Ports(string json)
    {
        var list = new List<Port>();
        using var doc = JsonDocument.Parse(json);
        foreach (var e in doc.RootElement.GetProperty("ports").EnumerateArray())
            list.Add(e.Deserialize<Port>()!); // asks Port within ports.[*]
        return list;
    }

    public static object Berths(string json)
    {
        var doc = JObject.Parse(json);
        return doc["data"]!["berths"]!.Select(t => t.ToObject<Berth>()).ToList(); // asks Berth within data.berths.[*]
    }

    public static object? Crane(string json)
    {
        foreach (var t in JToken.Parse(json)["cranes"]!)
            if ((string?)t["kind"] == "big")
                return t.ToObject<Crane>(); // asks Crane within cranes.[*] picked
        return null;
    }

    public static List<object> Notices(string json)
    {
        var list = new List<object>();
        using var doc = JsonDocument.Parse(json);
        foreach (var e in doc.RootElement.EnumerateArray())
            switch (e.GetProperty("kind").GetString())
            {
                case "fog": list.Add(e.Deserialize<Fog>()!); break; // asks Fog within [*] picked
                case "delay": list.Add(System.Text.Json.JsonSerializer.Deserialize<Delay>(e.GetRawText())!); break; // asks Delay within [*] picked
            }
        return list;
    }

    public static Pass Pass(JsonElement e) => e.Deserialize<Pass>()!; // asks Pass of a part

    public static object Tides(string json) =>
        JArray.Parse(json).Where(t => t.Value<string>("state") == "done").Select(t => t.ToObject<Tide>()!).ToList(); // asks Tide within [*] picked

    public static object? Fare(string json, int status)
    {
        if (status != 200) return null;
        return JsonNode.Parse(json)!["result"]?["fare"].Deserialize<Fare>(); // asks Fare within result.fare
    }

    public static object? Pier(string json)
    {
        var data = JToken.Parse(json)["data"];
        if (data == null || data.Type != JTokenType.Object) return null;
        return data.ToObject<Pier>(); // asks Pier within data picked
    }

    public static Vessel? Vessel(string json) => JsonConvert.DeserializeObject<Vessel>(json.ToString()); // asks Vessel
}
