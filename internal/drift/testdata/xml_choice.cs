// document: <timetable><sailing id="1"/><charter><client>Ada</client></charter><sailing id="x"/><pause>5</pause><crafts><ferry name="A" cars="3"/><launch name="B" seats="4"/></crafts><car plate="S1" length="4.5"/></timetable>
// document: <timetable><sailing id="2"/><pause>soon</pause></timetable>
// document: <timetable><crafts><launch name="B" seats="few"/><launch name="C" seats="many"/></crafts><bike plate="S2"/></timetable>
// document: <timetable><car plate="S1" length="long"/></timetable>
// lost: 4
using System.Xml.Serialization;

public class Api { public Root Load(string xml) => (Root)new XmlSerializer(typeof(Root)).Deserialize(new StringReader(xml)); }

[XmlRoot("timetable")]
public class Root
{
    [XmlElement("sailing", typeof(Sailing)), XmlElement("charter", typeof(Charter)), XmlElement("pause", typeof(int))]
    public List<object> Entries { get; set; } = new(); // want unreadable-text 1/2 in 1
    [XmlArray("crafts"), XmlArrayItem("ferry", typeof(Ferry)), XmlArrayItem("launch", typeof(Launch))]
    public List<Craft>? Crafts { get; set; }
    [XmlElement("car", typeof(Car)), XmlElement("bike", typeof(Bike))]
    public Vehicle? Vehicle { get; set; }
}
public class Sailing { [XmlAttribute("id")] public int Id { get; set; } } // want unreadable-text 1/3 in 1
public class Charter { [XmlElement("client")] public string? Client { get; set; } }
public abstract class Craft { [XmlAttribute("name")] public string? Name { get; set; } } // want never-absent 3/3 in 4
public class Ferry : Craft { [XmlAttribute("cars")] public int Cars { get; set; } }
public class Launch : Craft { [XmlAttribute("seats")] public int Seats { get; set; } } // want unreadable-text 2/3 in 1
public class Vehicle { [XmlAttribute("plate")] public string? Plate { get; set; } }
public class Car : Vehicle { [XmlAttribute("length")] public double Length { get; set; } } // want unreadable-text 1/2 in 1
public class Bike : Vehicle { }
