package cli_test

// deskStories are what happens to those who write models in C#.
var deskStories = []story{
	{"one value where Newtonsoft.Json reads a list or an object", files{
		"App/Fare.cs": `using Newtonsoft.Json;
using System.Collections.Generic;
namespace Saltmere;

public class Leg { public int No { get; set; } }
public class Fare
{
    public string Name { get; set; } = "";
    public List<int> Pence { get; set; } = new();
    public Leg? Leg { get; set; }
    public List<int> Password { get; set; } = new();
}
public static class Api { public static Fare? Load(string json) => JsonConvert.DeserializeObject<Fare>(json); }
`,
		"fares/1.json": `{"name": {"en": "Day"}, "pence": 450, "leg": 7, "password": 48213377}
`,
	}, []run{
		{"check App fares", 1, `1 of 1 response would not decode: 4 breaks, 0 misreads in 2 models
  1/1  breaks  Fare.Name      an object, not string  Fare.cs:8
  1/1  breaks  Fare.Pence     a number, not a list   Fare.cs:9
  1/1  breaks  Fare.Leg       7, not Leg?            Fare.cs:10
  1/1  breaks  Fare.Password  a number, not a list   Fare.cs:11

Fare  App/Fare.cs:6:14
  Newtonsoft.Json
  decoded from fares/* at $: 1 object in 1 response
  1 of 1 response would not decode because of it

  breaks    Name: string  App/Fare.cs:8:19  a value of another kind [wrong-kind]
            sent      an object  in 1 of 1 value, 1 of 1 response
            example   fares/1.json:1:10  /name  {"en": "Day"}
            throws    JsonReaderException: Unexpected character encountered while parsing value: {. Path '$.name'.
            change    both kinds are sent: read it by a JsonConverter that looks at reader.TokenType, or declare JToken and look at its Type

  breaks    Pence: List<int>  App/Fare.cs:9:22  a list where one value is declared, or the reverse [list-mismatch]
            sent      a number  in 1 of 1 value, 1 of 1 response
            example   fares/1.json:1:34  /pence  450
            throws    JsonSerializationException: Error converting value 450 to type 'System.Collections.Generic.List` + "`" + `1[System.Int32]'. Path '$.pence'.
            change    public int Pence { get; set; }  // one value

  breaks    Leg: Leg?  App/Fare.cs:10:17  a value of another kind [wrong-kind]
            sent      7  in 1 of 1 value, 1 of 1 response
            example   fares/1.json:1:46  /leg  7
            throws    JsonSerializationException: Error converting value 7 to type 'Saltmere.Leg'. Path '$.leg'.
            change    public long? Leg { get; set; }  // as it is sent

  breaks    Password: List<int>  App/Fare.cs:11:22  a list where one value is declared, or the reverse [list-mismatch]
            sent      a number  in 1 of 1 value, 1 of 1 response
            example   fares/1.json:1:61  /password  ‹masked›
            throws    JsonSerializationException: Error converting value ‹masked› to type 'System.Collections.Generic.List` + "`" + `1[System.Int32]'. Path '$.password'.
            change    public int Password { get; set; }  // one value

findings   4 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
	{"a key in another case, and an absent id", files{
		"Desk/Port.cs": `using System.Text.Json;

namespace Saltmere.Desk;

public class Port
{
    public long Id { get; set; }
    public string Code { get; set; } = "";
    public int berths { get; set; }
}

public static class Ports
{
    public static List<Port>? Read(string json) => JsonSerializer.Deserialize<List<Port>>(json);
}
`,
		"ports.json": `[{"Id": 7, "code": "SAL", "berths": 4}, {"code": "WIC", "berths": 2}]
`,
	}, []run{{"check Desk ports.json", 1, `0 of 1 response would not decode: 0 breaks, 2 misreads in 1 model
  1/1  misreads  Port.Id    absent seen as 0  Port.cs:7
  1/1  misreads  Port.Code  sent as code      Port.cs:8

Port  Desk/Port.cs:5:14
  System.Text.Json
  decoded from ports at $[*]: 2 objects in 1 response

  misreads  Id: long  Desk/Port.cs:7:17  0, false or empty where the key is absent or null [silent-zero]
            sent      no key Id  in 1 of 2 objects, 1 of 1 response
            example   ports.json:1:41  /1  code "WIC"
            app sees  0
            change    public long? Id { get; set; }  // or give it a default that holds

  misreads  Code: string  Desk/Port.cs:8:19  sent under another key: the app sees nothing [renamed-optional]
            sent      no key Code  in 2 of 2 objects, 1 of 1 response
            example   ports.json:1:2  /0  Id 7
            app sees  ""
            evidence  code is sent in 2 of 2 objects, never together with Code; the names differ in case or underscores alone; no response here has Code, so it is misspelt in the model, or was renamed before these captures
            change    [JsonPropertyName("code")]  // on the property; one property is read from one key, so keep the old one beside it while both are sent

findings   0 breaks, 2 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`}}},
	{"null, text and fractions for values", files{
		"Desk/Fare.cs": `#nullable enable
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Saltmere.Desk;

public record Fare(
    [property: JsonPropertyName("name")] string Name,
    [property: JsonPropertyName("pence")] int Pence,
    [property: JsonPropertyName("days")] int Days);

public static class Fares
{
    public static Fare[]? Read(string json) => JsonSerializer.Deserialize<Fare[]>(json);
}
`,
		"fares/1.json": `[{"name": "adult", "pence": 1250, "days": 1}, {"name": null, "pence": 12.5, "days": 1}]
`,
		"fares/2.json": `[{"name": "child", "pence": "600", "days": null}]
`,
	}, []run{{"check Desk fares", 1, `2 of 2 responses would not decode: 2 breaks, 1 misread in 1 model
  2/2  breaks    Fare.Pence  "600", 12.5                            Fare.cs:9
  1/2  breaks    Fare.Days   null                                   Fare.cs:10
  1/2  misreads  Fare.Name   null in a property that is never null  Fare.cs:8

Fare  Desk/Fare.cs:7:15
  System.Text.Json
  decoded from fares/* at $[*]: 3 objects in 2 responses
  2 of 2 responses would not decode because of it

  breaks    Pence: int  Desk/Fare.cs:9:47  values of several kinds, which fail in several ways [mixed-values]
            sent      "600"  in 1 of 3 values, 1 of 2 responses: JsonException: The JSON value could not be converted to Saltmere.Desk.Fare. Path: $[*].pence.
                      12.5  in 1 of 3 values, 1 of 2 responses: JsonException: The JSON value could not be converted to Saltmere.Desk.Fare. Path: $[*].pence.
            example   fares/1.json:1:71  /1/pence  12.5
            change    declare double for numbers with a fraction; read the other kinds by hand, one after the other

  breaks    Days: int  Desk/Fare.cs:10:46  null where a value is declared [null-value]
            sent      null  in 1 of 3 values, 1 of 2 responses, in fares/2 alone
            example   fares/2.json:1:44  /0/days  null
            throws    JsonException: The JSON value could not be converted to System.Int32. Path: $[0].days.
            change    int? Days  // make it optional

  misreads  Name: string  Desk/Fare.cs:8:49  null in a property that says it is never null [hidden-null]
            sent      null  in 1 of 3 values, 1 of 2 responses, in fares/1 alone
            example   fares/1.json:1:56  /1/name  null
            app sees  null
            change    string? Name  // null gets in here and crashes later, somewhere else

findings   2 breaks, 1 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`}}},
	{"the same in the other library", files{
		"Desk/Fare.cs": `#nullable enable
using Newtonsoft.Json;

namespace Saltmere.Desk;

public class Fare
{
    [JsonProperty("name")] public string Name { get; set; } = "";
    [JsonProperty("pence")] public int Pence { get; set; }
    [JsonProperty("days", Required = Required.Always)] public int Days { get; set; }
}

public static class Fares
{
    public static List<Fare>? Read(string json) => JsonConvert.DeserializeObject<List<Fare>>(json);
}
`,
		"fares/1.json": `[{"name": "adult", "pence": 1250, "days": 1}, {"name": null, "pence": 12.0, "days": 1}]
`,
		"fares/2.json": `[{"name": "child", "pence": "600"}]
`,
	}, []run{{"check Desk fares", 1, `2 of 2 responses would not decode: 2 breaks, 1 misread in 1 model
  1/2  breaks    Fare.Pence  12.0                                   Fare.cs:9
  1/2  breaks    Fare.Days   not always sent                        Fare.cs:10
  1/2  misreads  Fare.Name   null in a property that is never null  Fare.cs:8

Fare  Desk/Fare.cs:6:14
  Newtonsoft.Json
  decoded from fares/* at $[*]: 3 objects in 2 responses
  2 of 2 responses would not decode because of it

  breaks    Pence: int  Desk/Fare.cs:9:40  a number that the type cannot hold [out-of-range]
            sent      12.0  in 1 of 3 values, 1 of 2 responses, in fares/1 alone
            example   fares/1.json:1:71  /1/pence  12.0
            throws    JsonReaderException: Input string '12.0' is not a valid integer. Path '$[1].pence'.
            change    public long Pence { get; set; }  // a wider type

  breaks    Days: int  Desk/Fare.cs:10:67  the key is not always sent [missing-key]
            sent      no key days  in 1 of 3 objects, 1 of 2 responses, in fares/2 alone
            example   fares/2.json:1:2  /0  name "child"
            throws    JsonSerializationException: Required property 'days' not found in JSON. Path '$[0]'.
            change    public int? Days { get; set; }  // make it optional

  misreads  Name: string  Desk/Fare.cs:8:42  null in a property that says it is never null [hidden-null]
            sent      null  in 1 of 3 values, 1 of 2 responses, in fares/1 alone
            example   fares/1.json:1:56  /1/name  null
            app sees  null
            change    public string? Name { get; set; }  // null gets in here and crashes later, somewhere else

findings   2 breaks, 1 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`}}},
	{"an envelope at the root, and a date", files{
		"Desk/Notice.cs": `using System.Text.Json;
using System.Text.Json.Serialization;

namespace Saltmere.Desk;

public class Notice
{
    [JsonPropertyName("text")] public string Text { get; set; }
    [JsonPropertyName("since")] public DateTime Since { get; set; }
    [JsonPropertyName("level")] public Level Level { get; set; }
}

public enum Level { Low, High }

public static class Notices
{
    public static List<Notice> Read(string json) => JsonSerializer.Deserialize<List<Notice>>(json);
}
`,
		"notices/1.json": `{"count": 1, "value": [{"text": "Fog", "since": "2026-03-01T09:30:00Z", "level": 1}]}
`,
		"notices/2.json": `[{"text": "Fog", "since": "01.03.2026", "level": "high"}]
`,
	}, []run{{"check Desk notices -pair List<Notice>=notices/*", 1, `2 of 2 responses would not decode: 3 breaks, 0 misreads in 2 models
  1/2  breaks  List<Notice>  an object, not List<Notice>            Notice.cs:17
  1/2  breaks  Notice.Since  "01.03.2026" is no date that it reads  Notice.cs:9
  1/2  breaks  Notice.Level  "high", not Level                      Notice.cs:10

List<Notice>  as a whole response
  decoded from notices/* at $ in 2 responses

  breaks    List<Notice>  Desk/Notice.cs:17:68  the response is of another kind than the type that is decoded [wrong-root]
            sent      an object  in 1 of 2 values, 1 of 2 responses, in notices/1 alone
            example   notices/1.json:1:1  ""  {"count": 1, "value": [{"text": "Fog", "since": "2026-03-01T09:30:00Z", "level": 1}]}
            throws    JsonException: The JSON value could not be converted to System.Collections.Generic.List` + "`" + `1[Saltmere.Desk.Notice]. Path: $.
            change    decode a type that has the response's own keys, or the list alone where that is what is sent

Notice  Desk/Notice.cs:6:14
  System.Text.Json
  decoded from notices/* at $[*]: 1 object in 2 responses
  1 of 2 responses would not decode because of it

  breaks    Since: DateTime  Desk/Notice.cs:9:49  text that is no date in the form that the decoder expects [unreadable-date]
            sent      "01.03.2026"  in 1 of 1 value, 1 of 2 responses, in notices/2 alone
            example   notices/2.json:1:27  /0/since  "01.03.2026"
            throws    JsonException: The JSON value could not be converted to System.DateTime. Path: $[0].since.
            change    declare string, or read it by a JsonConverter of the form that is sent: ISO 8601 alone is taken

  breaks    Level  Desk/Notice.cs:10:46  a value of another kind [wrong-kind]
            sent      "high"  in 1 of 1 value, 1 of 2 responses, in notices/2 alone
            example   notices/2.json:1:50  /0/level  "high"
            throws    JsonException: The JSON value could not be converted to Saltmere.Desk.Level. Path: $[0].level.
            change    mark Level [JsonConverter(typeof(JsonStringEnumConverter<Level>))], or add a JsonStringEnumConverter to the options

findings   3 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`}}},
	{"no setter, and two members of one key", files{
		"Desk/Vessel.cs": `using System.Text.Json;
using System.Text.Json.Serialization;

namespace Saltmere.Desk;

public class Vessel
{
    [JsonPropertyName("name")] public string Name { get; }
    [JsonPropertyName("decks")] public int Decks { get; private set; }
}

public class Crew
{
    [JsonPropertyName("name")] public string Name { get; set; }
    [JsonPropertyName("name")] public string FullName { get; set; }
}

public static class Fleet
{
    public static Vessel Vessel(string json) => JsonSerializer.Deserialize<Vessel>(json);
    public static Crew Crew(string json) => JsonSerializer.Deserialize<Crew>(json);
}
`,
		"vessel.json": `{"name": "Tern", "decks": 2}
`,
		"crew.json": `{"name": "Ann"}
`,
	}, []run{{"check Desk vessel.json crew.json -pair Vessel=vessel.json -pair Crew=crew.json", 1, `1 of 2 responses would not decode: 1 break, 2 misreads in 2 models
  1/1  breaks    Crew          cannot be decoded at all  Vessel.cs:12
  1/1  misreads  Vessel.Name   "Tern" seen as null       Vessel.cs:8
  1/1  misreads  Vessel.Decks  2 seen as 0               Vessel.cs:9

Vessel  Desk/Vessel.cs:6:14
  System.Text.Json
  decoded from vessel at $: 1 object in 1 response

  misreads  Name: string  Desk/Vessel.cs:8:46  the field keeps its own value: what is sent is never read [never-read]
            sent      a value that is not read  in 1 of 1 value, 1 of 1 response
            example   vessel.json:1:10  /name  "Tern"
            app sees  null
            change    public string Name { get; init; }  // it has no setter

  misreads  Decks: int  Desk/Vessel.cs:9:44  the field keeps its own value: what is sent is never read [never-read]
            sent      a value that is not read  in 1 of 1 value, 1 of 1 response
            example   vessel.json:1:27  /decks  2
            app sees  0
            change    [JsonInclude]  // on the property, whose setter is private

Crew  Desk/Vessel.cs:12:14
  System.Text.Json
  decoded from crew at $: 1 object in 1 response
  1 of 1 response would not decode because of it

  breaks    Crew  Desk/Vessel.cs:12:14  a type that the library cannot decode, whatever is sent [undecodable-type]
            sent      any value  in 1 of 1 value, 1 of 1 response
            example   crew.json:1:1  ""  {"name": "Ann"}
            throws    InvalidOperationException: The JSON property name for 'Saltmere.Desk.Crew.FullName' collides with another property.
            change    give one of them another name by [JsonPropertyName], or mark it [JsonIgnore]

findings   1 breaks, 2 misreads, 0 ignores
models     2 declared in 1 source file: 2 with findings, 0 clean, 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`}}},
	{"code of the app reads elements that it is given", files{
		"Desk/Tide.cs": `using System.Text.Json;

namespace Saltmere.Desk;

public class Tide
{
    public double Height { get; set; }

    public static Tide Of(JsonElement e) => new Tide { Height = e.GetProperty("height_m").GetDouble() };
}
`,
		"tide.json": `{"height_m": 3.2}
`,
		"late.json": `{"height_m": "3.2"}
`,
	}, []run{{"models Desk", 0, `Tide  class  Desk/Tide.cs:5:14
  C# by its own code
  Height  double  height_m

1 model in 1 source file
`}, {"trial Desk -model Tide tide.json late.json", 1, `tide.json as Tide: decodes
    place       declared        sent  seen
    $.height_m  Height: double  3.2   3.2

late.json as Tide: fails
  InvalidOperationException: The requested operation requires an element of type 'Number', but the target element has type 'String'.  at $.height_m  late.json:1:14
    place       declared        sent   seen
  ! $.height_m  Height: double  "3.2"  InvalidOperationException: The requested operation requires an element of type 'Number', but the target element has typ…

`}}},
	{"a service that reads tokens by hand", files{
		"Desk/Passes.cs": `using Newtonsoft.Json.Linq;

namespace Saltmere.Desk;

public enum PassKind { Day, Month, Year }

public class Pass
{
    public int Number { get; set; }
    public PassKind Kind { get; set; }
    public DateTime Until { get; set; }
    public int Rides { get; set; }
    public string Holder { get; set; } = "";
    public List<string> Zones { get; set; } = new();
}

public class PassService
{
    private readonly HttpClient http;
    public PassService(HttpClient http) => this.http = http;

    public async Task<List<Pass>> Load()
    {
        var text = await http.GetStringAsync("v2/passes");
        var passes = new List<Pass>();
        foreach (var row in (JArray)JObject.Parse(text)["passes"]!)
        {
            passes.Add(new Pass
            {
                Number = (int)row["number"]!,
                Kind = Enum.Parse<PassKind>((string)row["kind"]!, true),
                Until = DateTime.ParseExact((string)row["until"]!, "dd/MM/yyyy", null),
                Rides = row.Value<int>("rides"),
                Holder = (string?)row["holder"]?["name"] ?? "nobody",
                Zones = row["zones"]?.ToObject<List<string>>() ?? new(),
            });
        }
        return passes;
    }
}
`,
		"passes/1.json": `{"passes": [{"number": 7, "kind": "day", "until": "31/03/2026", "rides": 4, "holder": {"name": "Ann"}, "zones": ["A"], "photo": "a.png"}]}
`,
		"passes/2.json": `{"passes": [{"number": "8", "kind": "week", "until": "2026-03-31", "holder": null, "zones": null}]}
`,
		"passes/3.json": `{"passes": [{"number": 9.5, "kind": "year", "until": "01/04/2026", "rides": null, "zones": "A"}, {"kind": "day", "until": "01/04/2026"}]}
`,
		"passes/4.json": `{"passes": null}
`,
	}, []run{{"models Desk", 0, `PassKind  enum  Desk/Passes.cs:5:13
  C# by its own code
  written as int
  case Day = 0
  case Month = 1
  case Year = 2

Pass  class  Desk/Passes.cs:7:14
  C# by its own code
  Number  int           number
  Kind    PassKind      kind
  Until   DateTime      until
  Rides   int           rides
  Holder  string        holder  default ""
  Zones   List<string>  zones   default new()

Decoded
  List<Pass>  Desk/Passes.cs:26:45  from v2/passes

2 models in 1 source file
`}, {"check Desk passes", 1, `3 of 4 responses would not decode: 7 breaks, 2 misreads in 2 models
  1/4  breaks    List<Pass>   null                                  Passes.cs:26
  1/4  breaks    Pass.Number  not always sent                       Passes.cs:9
  1/4  breaks    Pass.Kind    the initialiser throws                Passes.cs:10
  1/4  breaks    Pass.Until   "2026-03-31" cannot be made DateTime  Passes.cs:11
  1/4  breaks    Pass.Rides   null                                  Passes.cs:12
  1/4  breaks    Pass.Holder  null                                  Passes.cs:13
  1/4  breaks    Pass.Zones   "A", not List<string>                 Passes.cs:14
  2/4  misreads  Pass.Rides   absent seen as 0                      Passes.cs:12
  1/4  misreads  Pass.Number  9.5 seen as 10                        Passes.cs:9

List<Pass>  as a whole response
  decoded from passes/* at $ in 4 responses

  breaks    List<Pass>  Desk/Passes.cs:26:45  null where a value is declared [null-value]
            sent      null  in 1 of 4 values, 1 of 4 responses, in passes/4 alone
            example   passes/4.json:1:12  /passes  null
            throws    InvalidCastException: Unable to cast object of type.
            change    look first whether it is there: TryGetProperty of an element; of a node or a token cast to a type that can be null

Pass  Desk/Passes.cs:7:14
  C# by its own code
  decoded from passes/* at $.passes[*]: 4 objects in 4 responses
  at least 2 of 4 responses would not decode because of it

  breaks    Number: int  Desk/Passes.cs:9:16  the key is not always sent [missing-key]
            sent      no key number  in 1 of 4 objects, 1 of 4 responses, in passes/3 alone
            example   passes/3.json:1:98  /passes/1  kind "day"
            throws    NullReferenceException: Object reference not set to an instance of an object.
            change    look first whether it is there: TryGetProperty of an element; of a node or a token cast to a type that can be null

  breaks    Kind: PassKind  Desk/Passes.cs:10:21  the initialiser throws [thrown-by-code]
            sent      "week"  in 1 of 4 values, 1 of 4 responses, in passes/2 alone
            example   passes/2.json:1:37  /passes/0/kind  "week"
            throws    ArgumentException: Requested value 'week' was not found.
            change    admit what is sent, or handle the error where it is caught

  breaks    Until: DateTime  Desk/Passes.cs:11:21  text that the type cannot be made from [unreadable-text]
            sent      "2026-03-31"  in 1 of 4 values, 1 of 4 responses, in passes/2 alone
            example   passes/2.json:1:54  /passes/0/until  "2026-03-31"
            throws    FormatException: String '2026-03-31' was not recognized as a valid DateTime.
            change    public string Until { get; set; }  // and convert it where it is used

  breaks    Rides: int  Desk/Passes.cs:12:16  null where a value is declared [null-value]
            sent      null  in 1 of 2 values, 1 of 4 responses, in passes/3 alone
            example   passes/3.json:1:77  /passes/0/rides  null
            throws    InvalidCastException: Null object cannot be converted to a value type.
            change    look first whether it is there: TryGetProperty of an element; of a node or a token cast to a type that can be null

  breaks    Holder: string  Desk/Passes.cs:13:19  null where a value is declared [null-value]
            sent      null  in 1 of 2 values, 1 of 4 responses, in passes/2 alone
            example   passes/2.json:1:78  /passes/0/holder  null
            throws    InvalidOperationException: Cannot access child value on Newtonsoft.Json.Linq.JValue.
            change    look first whether it is there: TryGetProperty of an element; of a node or a token cast to a type that can be null

  breaks    Zones: List<string>  Desk/Passes.cs:14:25  a value of another kind [wrong-kind]
            sent      "A"  in 1 of 3 values, 1 of 4 responses, in passes/3 alone
            example   passes/3.json:1:92  /passes/0/zones  "A"
            throws    JsonSerializationException: Error converting value "A" to type 'System.Collections.Generic.List` + "`" + `1[System.String]'. Path '$.passes[0].zones'.
            change    both kinds are sent: look what it is before it is read: ValueKind of an element, Type of a token

  misreads  Rides: int  Desk/Passes.cs:12:16  0, false or empty where the key is absent or null [silent-zero]
            sent      no key rides  in 2 of 4 objects, 2 of 4 responses, from passes/2 to passes/3
            example   passes/2.json:1:13  /passes/0  number "8"
            app sees  0
            change    cast it to a type that can be null, or take a default that cannot be taken for what is sent

  misreads  Number: int  Desk/Passes.cs:9:16  digits beyond what the type holds [lost-digits]
            sent      a number with a fraction  in 1 of 3 values, 1 of 4 responses, in passes/3 alone
            example   passes/3.json:1:24  /passes/0/number  9.5
            app sees  10
            change    declare a type that holds all digits: long, double or decimal

  ignores   1 key sent and not read: photo (in 1 of 4)

findings   7 breaks, 2 misreads, 1 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  4 read from 4 captures: 4 checked, 0 without a model, 0 not judged
`}}},
	{"an extension of the app's own, and a converter that decodes on the way", files{
		"Desk/Api.cs": `using System;
using System.Net.Http;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Threading.Tasks;

public class Money { public decimal Amount { get; set; } public string Currency { get; set; } = ""; }

[JsonConverter(typeof(PriceConverter))]
public class Price { public decimal Value { get; set; } }

// What it decodes on the way is a part of what the library reads, and no response.
public sealed class PriceConverter : JsonConverter<Price>
{
    public override Price Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options)
    {
        var money = JsonSerializer.Deserialize<Money>(ref reader, options)!;
        return new Price { Value = money.Amount };
    }

    public override void Write(Utf8JsonWriter writer, Price value, JsonSerializerOptions options) => writer.WriteNumberValue(value.Value);
}

public class Fare { public string Code { get; set; } = ""; public Price Price { get; set; } = new(); }

public static class Content
{
    public static async Task<T> ReadAsAsync<T>(this HttpContent content)
    {
        var text = await content.ReadAsStringAsync();
        return JsonSerializer.Deserialize<T>(text) ?? throw new InvalidOperationException("nothing was sent");
    }
}

public class Client
{
    private readonly HttpClient _http = new();
    public async Task<Fare> FareAsync(int id) => await (await _http.GetAsync($"v2/fares/{id}")).Content.ReadAsAsync<Fare>();
}
`,
		"fares.ndjson": `{"Code": "A", "Price": {"Amount": 12.5, "Currency": "EUR"}}
{"Code": "B", "Price": {"Amount": "12.5", "Currency": "EUR"}}
`,
	}, []run{
		{"models Desk", 0, `Price  class  Desk/Api.cs:10:14
  System.Text.Json
  Value  decimal  Value

Fare  class  Desk/Api.cs:24:14
  System.Text.Json
  Code   string  Code   default ""
  Price  Price   Price  default new()

Decoded
  Fare  Desk/Api.cs:38:105  from v2/fares/{}
    FareAsync → ReadAsAsync → Deserialize (Desk/Api.cs:31:31)

2 models in 1 source file
`},
		{"check Desk fares.ndjson", 1, `1 of 2 responses would not decode: 1 break, 0 misreads in 1 model
  1/2  breaks  Fare.Price  an object, not Price  Api.cs:24

Fare  Desk/Api.cs:24:14
  System.Text.Json
  decoded from fares at $: 2 objects in 2 responses
  1 of 2 responses would not decode because of it

  breaks    Price  Desk/Api.cs:24:73  a value of another kind [wrong-kind]
            sent      an object  in 1 of 2 values, 1 of 2 responses
            example   fares.ndjson:2:24 #2  /Price  {"Amount": "12.5", "Currency": "EUR"}
            throws    JsonException: The JSON value could not be converted to System.Decimal. Path: $.Amount.
            change    both kinds are sent: read it by a JsonConverter that looks at reader.TokenType, or declare JsonElement and look at its ValueKind

Not judged
  Price  Desk/Api.cs:10:14  code of the app reads it, as a part of Price

findings   1 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 1 not judged
responses  2 read from 1 capture: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"null that the app refuses", files{
		"Desk/Api.cs": `using System;
using System.Text.Json;

public class Fare { public string Code { get; set; } = ""; public int Pence { get; set; } public int Zones { get; set; } }

public static class Api
{
    public static Fare Load(string text) => JsonSerializer.Deserialize<Fare>(text) ?? throw new InvalidOperationException("nothing was sent");
}
`,
		"fares.ndjson": `{"Code": "A", "Pence": 1250, "Zones": 2}
null
`,
	}, []run{
		{"check Desk fares.ndjson", 1, `1 of 2 responses would not decode: 1 break, 0 misreads in 1 model
  1/2  breaks  Fare  null  Api.cs:8

Fare  as a whole response
  decoded from fares at $ in 2 responses

  breaks    Fare  Desk/Api.cs:8:60  null where a value is declared [null-value]
            sent      null  in 1 of 2 values, 1 of 2 responses
            example   fares.ndjson:2:1 #2  ""  null
            throws    InvalidOperationException: nothing was sent
            change    Fare?  // make it optional

findings   1 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  2 read from 1 capture: 2 checked, 0 without a model, 0 not judged
`},
	}},
}
