// document: <board xmlns:s="urn:saltmere"><day>2026-03-01</day><sailing gate="A1"><id>1</id><vessel>Tern</vessel><seats>40</seats><stops><stop>SAL</stop></stops><fare>9.80</fare><state>late</state></sailing><note>fog</note></board>
// document: <board><day>2026-03-02</day><sailing gate="A2"><id> 2 </id><vessel>Gull</vessel><seats/><stops/><fare>7</fare><state>on-time</state></sailing><sailing><gate>B1</gate><id>3</id><vessel>Tern</vessel><seats>9</seats><stop>SAL</stop><stop>HOL</stop><fare>9,80</fare><state>cancelled</state></sailing></board>
// document: <board xmlns:n="urn:names"><day>2026-03-03</day><sailing gate="B2"><id>4</id><n:vessel>Tern</n:vessel><seats>12</seats><fare>9.80</fare><state>late</state><speed>12</speed></sailing></board>
// lost: 1
using System.Xml.Serialization;

public class Api { public Root Load(string xml) => (Root)new XmlSerializer(typeof(Root)).Deserialize(new StringReader(xml)); }

[XmlRoot("board")]
public class Root
{
    [XmlElement("day", DataType = "date")] public DateTime Day { get; set; }
    [XmlElement("sailing")] public List<Sailing> Sailings { get; set; } = new();
    [XmlElement("note")] public string Note { get; set; } = "";
}

public class Sailing // want unread-keys speed
{
    [XmlAttribute("gate")] public string Gate { get; set; } = ""; // want renamed-optional 1/4 in 1 as <gate
    [XmlElement("id")] public int Id { get; set; }
    [XmlElement("vessel")] public string Vessel { get; set; } = ""; // want renamed-optional 1/4 in 1 as <{urn:names}vessel
    [XmlElement("seats")] public int Seats { get; set; } // want unreadable-text 1/4 in 1
    [XmlArray("stops"), XmlArrayItem("stop")] public List<string> Stops { get; set; } = new(); // want moved-optional 2/4 in 2 as /board/sailing/stop
    [XmlElement("fare")] public decimal Fare { get; set; } // want unreadable-text 1/4 in 1
    [XmlElement("state")] public State State { get; set; } // want unknown-constant 1/4 in 1
}

public enum State { [XmlEnum("on-time")] OnTime, [XmlEnum("late")] Late }
