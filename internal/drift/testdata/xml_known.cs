// document: <Trip xmlns="urn:saltmere" xmlns:i="http://www.w3.org/2001/XMLSchema-instance" i:type="Charter"><At>2026-03-01T09:30:00Z</At><Vessel>Tern</Vessel><Client>Ann</Client></Trip>
// document: <Trip xmlns="urn:saltmere" xmlns:i="http://www.w3.org/2001/XMLSchema-instance" i:type="Charter"><Vessel>Tern</Vessel><Client>Bo</Client></Trip>
// document: <Trip xmlns="urn:saltmere"><At>2026-03-01T09:30:00Z</At><Vessel>Gull</Vessel><Deck>2</Deck></Trip>
// document: <s:Trip xmlns:s="urn:saltmere" xmlns:i="http://www.w3.org/2001/XMLSchema-instance" i:type="s:Cruise"><s:Vessel>Gull</s:Vessel></s:Trip>
// lost: 1
using System.Runtime.Serialization;

public class Api { public Root Load(Stream s) => (Root)new DataContractSerializer(typeof(Root)).ReadObject(s); }

[DataContract(Name = "Trip", Namespace = "urn:saltmere"), KnownType(typeof(Charter))]
public class Root // want unknown-class 1/3 in 1; unread-keys saltmere:Deck
{
    [DataMember] public DateTime At { get; set; } // want silent-zero 1/2 in 1
    [DataMember] public string Vessel { get; set; }
}

[DataContract(Namespace = "urn:saltmere")]
public class Charter : Root { [DataMember] public string Client { get; set; } }
