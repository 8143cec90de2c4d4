using Refit;
namespace Saltmere.Remote;
public interface IFerriesApi
{
    [Get("/sailings")]
    Task<List<Sailing>> GetSailings([Query] string? from = null); // asks List<Sailing> GET /sailings

    [Get("/sailings/{id}")]
    Task<Sailing> GetSailing(int id); // asks Sailing GET /sailings/{id}
}
public class Sailing
{
    public int Id { get; set; }
    public string? VesselName { get; set; }
    public SailingState State { get; set; }
    public double? Fare { get; set; }
    public object? Extra { get; set; }
}
public enum SailingState { Planned, OnTime }
