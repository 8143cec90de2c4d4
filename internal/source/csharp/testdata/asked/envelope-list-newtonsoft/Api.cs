using Newtonsoft.Json.Linq;
public static class Api
{
    public static async Task<List<Pass>> LoadAsync(HttpClient http)
    {
        var root = JObject.Parse(await http.GetStringAsync("passes"));
        var items = root.SelectToken("response.passes");
        return items == null ? new List<Pass>() : items.ToObject<List<Pass>>(); // asks List<Pass> passes
    }
}
