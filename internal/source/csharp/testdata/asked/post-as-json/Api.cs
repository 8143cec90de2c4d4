using System.Net.Http.Json;
using Saltmere.Contracts;
public class Api(HttpClient? client)
{
    public Api() : this(null) { }
    public async Task<BookingConfirmation?> LoadAsync(HttpClient http)
    {
        var request = new BookingRequest(12, Seats: 2);
        var response = await (client ?? http).PostAsJsonAsync("bookings", request);
        return await response.EnsureSuccessStatusCode().Content.ReadFromJsonAsync<BookingConfirmation>(); // asks BookingConfirmation bookings
    }
}
