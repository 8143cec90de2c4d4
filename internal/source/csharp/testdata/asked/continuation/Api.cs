using Newtonsoft.Json;
namespace Saltmere.Legacy
{
    public class Berth { public int Number; public string Vessel; [JsonIgnore] public string Note; private int visits = 0; public int Visits() { return visits; } }
    public class Api
    {
        public Berth Load(HttpClient http)
        {
            Task<Berth> task = http.GetStringAsync("berths/2").ContinueWith(t => JsonConvert.DeserializeObject<Berth>(t.Result)); // asks Berth berths/2
            task.Wait();
            return task.Result;
        }
    }
}
