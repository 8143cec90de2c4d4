namespace Saltmere.Commands
{
    public class HoldSeats : ApiCommand<HoldSeats.Request, HoldSeats.Response> // asks HoldSeats.Response holds
    {
        protected override string Route => "holds";
        public class Request { public int Seats { get; set; } }
        public class Response { public string Code { get; set; } public DateTimeOffset Until { get; set; } public int? Seats { get; set; } }
    }
    public class Api { public Task<HoldSeats.Response> Load(HttpClient http) => new HoldSeats().ExecuteAsync(http, new HoldSeats.Request { Seats = 2 }); }
}
