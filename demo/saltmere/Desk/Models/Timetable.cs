using System.Xml.Serialization;

namespace Saltmere.Desk.Models;

/// <summary>The timetable that is pinned up, which the API has sent as XML from the first.</summary>
[XmlRoot("timetable")]
public class Timetable
{
    [XmlAttribute("day")]
    public DateTime Day { get; set; }

    [XmlElement("departure")]
    public List<TimetableLine> Lines { get; set; } = new();
}

public class TimetableLine
{
    [XmlAttribute("gate")]
    public string Gate { get; set; } = "";

    [XmlElement("vessel")]
    public string Vessel { get; set; } = "";

    [XmlElement("time")]
    public DateTime Time { get; set; }

    [XmlElement("seats")]
    public int Seats { get; set; }

    [XmlArray("calls"), XmlArrayItem("port")]
    public List<string> Calls { get; set; } = new();

    [XmlElement("fare")]
    public decimal Fare { get; set; }
}
