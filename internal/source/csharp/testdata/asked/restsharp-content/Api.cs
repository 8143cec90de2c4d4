using Newtonsoft.Json;
using RestSharp;
namespace Saltmere.Client
{
    public class Port { [JsonProperty("port_code")] public string Code { get; set; } public int Berths { get; set; } public bool? Open { get; set; } }
    public class Api
    {
        public List<Port> Load(HttpClient http)
        {
            RestClient client = new RestClient(http);
            RestRequest request = new RestRequest("ports", Method.Get);
            request.AddHeader("X-Key", "none");
            request.AddQueryParameter("limit", "10");
            RestResponse response = client.Execute(request);
            return JsonConvert.DeserializeObject<List<Port>>(response.Content); // asks List<Port> GET ports
        }
    }
}
