// document: <pass><holder>Ann Tern</holder></pass>
// document: <pass><holder>Bo Gull</holder></pass>
// lost: 2
using System.Xml.Serialization;

public class Api { public Root Load(string xml) => (Root)new XmlSerializer(typeof(Root)).Deserialize(new StringReader(xml)); }

[XmlRoot("pass")]
class Root // want undecodable-type 2/2 in 2
{
    [XmlElement("holder")] public string Holder { get; set; } = "";
}
