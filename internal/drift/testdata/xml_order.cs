// document: <vessel><name>Tern</name><decks>3</decks><built>1998</built></vessel>
// document: <vessel><decks>3</decks><name>Tern</name><built>1998</built></vessel>
// document: <vessel><name>Gull</name><decks>2</decks></vessel>
// lost: 0
using System.Xml.Serialization;

public class Api { public Root Load(string xml) => (Root)new XmlSerializer(typeof(Root)).Deserialize(new StringReader(xml)); }

[XmlRoot("vessel")]
public class Root
{
    [XmlElement("name", Order = 1)] public string Name { get; set; } = ""; // want lost-order 1/3 in 1
    [XmlElement("decks", Order = 2)] public int Decks { get; set; }
    [XmlElement("built", Order = 3)] public int? Built { get; set; } // want lost-order 1/3 in 1
}
