using System.Xml.Serialization;

namespace Saltmere.Desk.Models;

/// <summary>Who and what is aboard of a sailing.</summary>
[XmlRoot("manifest", Namespace = "urn:saltmere:desk")]
internal class Manifest
{
    [XmlAttribute("sailing")]
    public int Sailing { get; set; }

    [XmlElement("souls")]
    public int Souls { get; set; }

    [XmlElement("vehicle")]
    public List<Vehicle> Vehicles { get; set; } = new();
}

public class Vehicle
{
    [XmlAttribute("kind")]
    public string Kind { get; set; } = "";

    [XmlAttribute("length")]
    public double Length { get; set; }
}
