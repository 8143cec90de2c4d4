// document: <Sailing xmlns="urn:saltmere"><Gate>A1</Gate><Id>1</Id><Vessel>Tern</Vessel></Sailing>
// document: <Sailing xmlns="urn:saltmere"><Id>2</Id><Gate>A2</Gate><Vessel>Gull</Vessel></Sailing>
// document: <Sailing xmlns="urn:saltmere"><Gate>A3</Gate><Id>x</Id><Vessel>Tern</Vessel></Sailing>
// document: <Sailing xmlns="urn:saltmere"><Gate>A3</Gate><Id>4</Id></Sailing>
// lost: 2
using System.Runtime.Serialization;

public class Api { public Root Load(Stream s) => (Root)new DataContractSerializer(typeof(Root)).ReadObject(s); }

[DataContract(Name = "Sailing", Namespace = "urn:saltmere")]
public class Root
{
    [DataMember] public string Gate { get; set; } // want lost-order 1/4 in 1
    [DataMember] public int Id { get; set; } // want unreadable-text 1/4 in 1
    [DataMember(IsRequired = true)] public string Vessel { get; set; } // want missing-key 1/4 in 1
    public string Note { get; set; }
}
