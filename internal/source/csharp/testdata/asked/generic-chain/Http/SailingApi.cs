namespace Saltmere.Http;

public sealed class SailingApi(HttpClient client) : JsonApi(client)
{
    public Task<Page<Sailing>?> List(int page) => GetAsync<Page<Sailing>>($"sailings?page={page}"); // asks Page<Sailing> GET sailings
}

public class Page<T> { public List<T> Items { get; init; } = []; public int TotalCount { get; init; } }
public class Sailing { public int SailingId { get; init; } public DeckKind MainDeck { get; init; } }
public enum DeckKind { OpenDeck, CarDeck }
