// document: <notices xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"><notice xsi:type="Delay"><id>1</id><minutes>20</minutes></notice><notice><id>2</id></notice></notices>
// document: <notices xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"><notice xsi:type="Delay"><id>3</id><minutes>long</minutes></notice></notices>
// document: <notices xmlns:x="http://www.w3.org/2001/XMLSchema-instance"><notice x:type="Closure"><id>4</id></notice></notices>
// lost: 2
using System.Xml.Serialization;

public class Api { public Root Load(string xml) => (Root)new XmlSerializer(typeof(Root)).Deserialize(new StringReader(xml)); }

[XmlRoot("notices")]
public class Root { [XmlElement("notice")] public List<Notice> Notices { get; set; } = new(); }

[XmlInclude(typeof(Delay))]
public class Notice { [XmlElement("id")] public int Id { get; set; } } // want unknown-class 1/3 in 1
public class Delay : Notice { [XmlElement("minutes")] public int Minutes { get; set; } } // want unreadable-text 1/2 in 1
