using System.Net.Http;
using System.Threading.Tasks;
using Newtonsoft.Json;
using Newtonsoft.Json.Linq;
using Text = System.Text.Json.JsonSerializer;
using Old = Newtonsoft.Json.JsonConvert;

public class Session { public string Token { get; set; } = ""; }
public class Port { public string Code { get; set; } = ""; }

public class Client
{
    private readonly HttpClient _http;
    public Client(HttpClient http) => _http = http;

    public Task<Session> Login() => Send<Session>("v2/login"); // asks Session v2/login within result
    public Task<Port> Port(int id) => Send<Port>($"v2/ports/{id}"); // asks Port v2/ports/{} within result

    private async Task<T> Send<T>(string path)
    {
        var text = await _http.GetStringAsync("https://api.saltmere.example/" + path);
        var root = JObject.Parse(text);
        if (root["code"]!.ToObject<int>() != 0) throw new HttpRequestException("refused");
        return root["result"]!.ToObject<T>()!;
    }

    public static Session? Named(string json) => Text.Deserialize<Session>(json); // asks Session by plain
    public static Port? Older(string json) => Old.DeserializeObject<Port>(json); // asks Port by plain
}
