// document: {"id":1,"seats":40}
// document: {"id":2,"id":3,"seats":40}
// lost: 1
using System.Text.Json;

public class Root
{
    public int id { get; set; } // want repeated-key 1/2 in 1
    public int seats { get; set; }
}

public static class Api
{
    public static Root? Load(string json) => JsonSerializer.Deserialize<Root>(json, new JsonSerializerOptions { AllowDuplicateProperties = false });
}
