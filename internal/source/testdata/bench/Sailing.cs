/*
 * Saltmere Ferries, the desk's app.
 *
 * Line NNN: what the app knows of its sailings, and what it shows of them.
 */
using System.Collections.ObjectModel;
using System.ComponentModel;
using System.Globalization;
using System.Text.Json.Serialization;
using Saltmere.Core;

namespace Saltmere.LineNNN;

/// <summary>A sailing of line NNN, as GET /v2/lines/NNN/sailings answers it.</summary>
public sealed class SailingNNN
{
    [JsonPropertyName("id")] public int Id { get; set; }
    [JsonPropertyName("from")] public string From { get; set; } = "";
    [JsonPropertyName("to")] public string To { get; set; } = "";

    /// <summary>When it leaves, by the clock of the port that it leaves.</summary>
    [JsonPropertyName("departs_at")] public DateTimeOffset? DepartsAt { get; set; }
    [JsonPropertyName("vessel")] public required VesselNNN Vessel { get; init; }
    [JsonPropertyName("status"), JsonConverter(typeof(JsonStringEnumConverter<StatusNNN>))] public StatusNNN Status { get; set; }
    [JsonPropertyName("seats_left")] public int? SeatsLeft { get; set; }
    [JsonPropertyName("price")] public decimal Price { get; set; } = 12.5m;
    [JsonPropertyName("notices")] public List<NoticeNNN> Notices { get; set; } = [];
    [JsonPropertyName("fares")] public Dictionary<string, decimal>? Fares { get; set; }

    /// <summary>"public int Ghost { get; set; }" is no property.</summary>
    [JsonIgnore] public bool IsFull => SeatsLeft == 0 && Notices.Count > 0;

    public string Label(string day) => $"{From} to {To}, {day.Trim()}";
    public const int Max = 3;
}

public enum StatusNNN { [JsonStringEnumMemberName("on_time")] OnTime, [JsonStringEnumMemberName("delayed")] Delayed, Cancelled }
public sealed record VesselNNN([property: JsonPropertyName("name")] string Name, [property: JsonPropertyName("knots")] double Knots);
public sealed record NoticeNNN([property: JsonPropertyName("text")] string Text, [property: JsonPropertyName("severity")] int? Severity);

internal abstract record StateNNN
{
    internal sealed record Loading : StateNNN;
    internal sealed record Shown(IReadOnlyList<RowNNN> Rows, bool Stale) : StateNNN;
    internal sealed record Failed(string Message, bool Retry = true) : StateNNN;
}

internal sealed record RowNNN(string Title, string Detail, int Colour, bool Enabled);

internal interface ISailingsNNN
{
    Task<List<SailingNNN>> SailingsAsync(string day, int page, CancellationToken token);
    Task<bool> BookAsync(int id, int seats);
}

/// <summary>
/// Shows the sailings of a day, and books seats on them.
/// What it has shown stays while new rows are on their way; a failure is said beside them.
/// </summary>
internal sealed class ViewModelNNN(ISailingsNNN sailings, IClock clock, IReporter reporter) : INotifyPropertyChanged
{
    private readonly ObservableCollection<RowNNN> _rows = new();
    private StateNNN _state = new StateNNN.Loading();
    private string _day = clock.Today();
    private int _page = 1;

    public event PropertyChangedEventHandler? PropertyChanged;

    public StateNNN State
    {
        get => _state;
        private set
        {
            _state = value;
            PropertyChanged?.Invoke(this, new PropertyChangedEventArgs(nameof(State)));
        }
    }

    public async Task ShowAsync(string day)
    {
        if (day == _day && _rows.Count > 0) return;
        _day = day;
        _page = 1;
        _rows.Clear();
        await LoadAsync();
    }

    public Task MoreAsync()
    {
        _page += 1;
        return LoadAsync();
    }

    private async Task LoadAsync(CancellationToken token = default)
    {
        if (_rows.Count == 0) State = new StateNNN.Loading();
        try
        {
            var found = await sailings.SailingsAsync(_day, _page, token);
            foreach (var row in found.OrderBy(s => s.DepartsAt ?? DateTimeOffset.MaxValue).Select(RowOf))
            {
                _rows.Add(row);
            }
            State = new StateNNN.Shown(_rows, Stale: false);
        }
        catch (HttpRequestException e) when (_rows.Count > 0)
        {
            reporter.Say($"line NNN: {e.Message}");
            State = new StateNNN.Shown(_rows, Stale: true);
        }
        catch (HttpRequestException e)
        {
            State = new StateNNN.Failed(e.StatusCode is { } status ? $"the harbour answers {(int)status}" : "no line to the harbour");
        }
    }

    private RowNNN RowOf(SailingNNN s)
    {
        var detail = s.Status switch
        {
            StatusNNN.OnTime => s.SeatsLeft is null ? "on time" : $"on time, {s.SeatsLeft} seats",
            StatusNNN.Delayed when s.Notices.Count > 0 => s.Notices[0].Text,
            StatusNNN.Delayed => "delayed",
            _ => "cancelled",
        };
        var colour = s.IsFull ? 0xC04030 : s.Vessel.Knots > 14 ? 0x308050 : 0x606870;
        return new RowNNN(s.Label(_day), detail, colour, s.Status != StatusNNN.Cancelled && !s.IsFull);
    }

    public async Task<bool> BookAsync(int id, int seats)
    {
        if (seats is < 1 or > SailingNNN.Max)
        {
            reporter.Say(string.Format(CultureInfo.InvariantCulture, "line NNN: {0} seats", seats));
            return false;
        }
        var booked = await sailings.BookAsync(id, seats);
        if (booked)
        {
            await LoadAsync();
        }
        return booked;
    }
}
