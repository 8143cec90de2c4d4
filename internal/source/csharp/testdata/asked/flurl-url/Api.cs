using Flurl;
using Flurl.Http;
namespace Saltmere
{
    public class Sailing { public int Id { get; set; } public string Vessel { get; set; } public DateTime? Departs { get; set; } }
    public class Api
    {
        const string Root = "https://ferries.example";
        public async Task<Sailing> LoadAsync(HttpClient http)
        {
            Url url = Root.AppendPathSegments("v1", "sailings", 5).SetQueryParam("expand", "vessel");
            IFlurlResponse response = await new FlurlClient(http).Request(url).WithOAuthBearerToken("none").GetAsync();
            return await response.GetJsonAsync<Sailing>(); // asks Sailing GET v1/sailings/{}
        }
    }
}
