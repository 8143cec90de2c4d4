using Newtonsoft.Json;
using Newtonsoft.Json.Converters;
using Newtonsoft.Json.Serialization;

namespace Saltmere.Desk.Models
{
    public class CrossingList
    {
        [JsonProperty("sailings", Required = Required.Always)]
        public List<Crossing> Crossings { get; set; } = new();
    }

    [JsonObject(NamingStrategyType = typeof(SnakeCaseNamingStrategy))]
    public class Crossing
    {
        public long Id { get; set; }
        public string From { get; set; } = "";
        public string To { get; set; } = "";
        public DateTimeOffset? ArrivesAt { get; set; }
        public CrossingStatus Status { get; set; }
        public int SeatsLeft { get; set; }
        public int WheelchairSpaces { get; set; }
        public string? Gate { get; set; }

        [JsonIgnore]
        public bool CanBoard => Status == CrossingStatus.Boarding && SeatsLeft > 0;
    }

    [JsonConverter(typeof(StringEnumConverter), typeof(SnakeCaseNamingStrategy))]
    public enum CrossingStatus
    {
        OnTime,
        Boarding,
        Delayed,
        Full,
    }
}
