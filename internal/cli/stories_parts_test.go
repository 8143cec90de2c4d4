package cli_test

// partStories are what happens where code takes a document apart, and has a library decode what is in it.
var partStories = []story{
	{"elements of a loop, and those that code picks", files{
		"App/Api.java": `import com.google.gson.*;
import java.util.*;

class Port { String code; int berths; }
class Fog { int visibility; }
class Delay { int minutes; }

class Api {
    private final Gson gson = new Gson();

    List<Port> ports(String json) {
        List<Port> out = new ArrayList<>();
        for (JsonElement e : JsonParser.parseString(json).getAsJsonObject().getAsJsonArray("ports")) {
            out.add(gson.fromJson(e, Port.class));
        }
        return out;
    }

    List<Object> notices(String json) {
        List<Object> out = new ArrayList<>();
        for (JsonElement e : JsonParser.parseString(json).getAsJsonObject().getAsJsonArray("notices")) {
            if (e.getAsJsonObject().get("kind").getAsString().equals("fog")) out.add(gson.fromJson(e, Fog.class));
            else out.add(gson.fromJson(e, Delay.class));
        }
        return out;
    }
}
`,
		"ports.json":   `{"ports": [{"code": "SAL", "berths": 4}, {"code": "TER", "berths": "many"}, {"code": "WIC"}]}` + "\n",
		"notices.json": `{"notices": [{"kind": "fog", "visibility": 200}, {"kind": "delay", "minutes": 15}]}` + "\n",
	}, []run{
		{"models App", 0, `Port  class  App/Api.java:4:7
  Gson
  code    String  code
  berths  int     berths

Fog  class  App/Api.java:5:7
  Gson
  visibility  int  visibility

Delay  class  App/Api.java:6:7
  Gson
  minutes  int  minutes

Decoded
  Port  App/Api.java:14:26  at ports[*]
  Fog  App/Api.java:22:91  at notices[*]  where code picks it
  Delay  App/Api.java:23:31  at notices[*]  where code picks it

3 models in 1 source file
`},
		{"check App ports.json notices.json", 1, `1 of 1 response would not decode: 1 break, 1 misread in 1 model
  1/1  breaks    Port.berths  "many", not int   Api.java:4
  1/1  misreads  Port.berths  absent seen as 0  Api.java:4

Port  App/Api.java:4:7
  Gson
  decoded from ports at $.ports[*]: 3 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    berths: int  App/Api.java:4:31  a value of another kind [wrong-kind]
            sent      "many"  in 1 of 2 values, 1 of 1 response
            example   ports.json:1:68  /ports/1/berths  "many"
            throws    JsonSyntaxException: java.lang.NumberFormatException: For input string: "many"
            change    both kinds are sent: read it by a JsonDeserializer, one kind and then the other, or declare JsonElement and look

  misreads  berths: int  App/Api.java:4:31  0, false or empty where the key is absent or null [silent-zero]
            sent      no key berths  in 1 of 3 objects, 1 of 1 response
            example   ports.json:1:77  /ports/2  code "WIC"
            app sees  0
            change    Integer berths;  // or give it a default that holds

Not judged
  Fog  App/Api.java:5:7  code of the app picks what is decoded as it, at App/Api.java:22:91, by what is in it; it seems to be decoded from notices, 1 response
  Delay  App/Api.java:6:7  code of the app picks what is decoded as it, at App/Api.java:23:31, by what is in it; it seems to be decoded from notices, 1 response

findings   1 breaks, 1 misreads, 0 ignores
models     3 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 2 not judged
responses  2 read from 2 captures: 1 checked, 0 without a model, 1 not judged
2 models could not be judged though there are responses for them: Fog, Delay
`},
	}},
	{"what code does before a library decodes is its own affair", files{
		"Desk/Api.cs": `using System.Collections.Generic;
using System.Text.Json;

public class Fare { public string Code { get; set; } = ""; public decimal Price { get; set; } }

public static class Api
{
    public static object Load(string json)
    {
        using var doc = JsonDocument.Parse(json);
        var fares = new List<Fare>();
        foreach (var e in doc.RootElement.GetProperty("fares").EnumerateArray())
        {
            try { fares.Add(e.Deserialize<Fare>()!); }
            catch (JsonException) { /* left out */ }
        }
        return fares;
    }
}
`,
		"fares/1.json": `{"fares": [{"Code": "A", "Price": 1.5}, {"Code": "B", "Price": "2"}]}` + "\n",
		"fares/2.json": `{"fares": null}` + "\n",
		"fares/3.json": `{"fares": []}` + "\n",
	}, []run{
		{"check Desk fares", 1, `at least 1 of 3 responses would not decode: 0 breaks, 1 misread in 1 model
  1/3  misreads  Fare.Price  "2", not decimal  Api.cs:4

Fare  Desk/Api.cs:4:14
  System.Text.Json
  decoded from fares/* at $.fares[*]: 2 objects in 3 responses
  1 of 3 responses would not decode because of it

  misreads  Price: decimal  Desk/Api.cs:4:75  a value of another kind [wrong-kind]
            sent      "2"  in 1 of 2 values, 1 of 3 responses, in fares/1 alone
            example   fares/1.json:1:64  /fares/1/Price  "2"
            app sees  nothing in place of the element
            dropped   JsonException: The JSON value could not be converted to System.Decimal. Path: $.fares[1].Price.
            change    both kinds are sent: read it by a JsonConverter that looks at reader.TokenType, or declare JsonElement and look at its ValueKind

findings   0 breaks, 1 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  3 read from 3 captures: 3 checked, 0 without a model, 0 not judged
`},
	}},
	{"code that looks at the kind of a value first", files{
		"Desk/Price.cs": `using System.Text.Json;
using System.Text.Json.Nodes;

public sealed class Price
{
    public decimal Amount { get; private init; }
    public string Currency { get; private init; } = "GBP";

    public static Price? Read(JsonNode? node) => node switch
    {
        null => null,
        JsonObject o => new Price { Amount = o["amount"]!.GetValue<decimal>(), Currency = o["ccy"]?.ToString() ?? "GBP" },
        JsonArray { Count: > 0 } a => Read(a[0]),
        JsonValue v => new Price { Amount = v.GetValue<decimal>() },
        _ => throw new JsonException("no price in " + node.ToJsonString()),
    };
}

public static class Api { public static Price? Load(string json) => Price.Read(JsonNode.Parse(json)!["price"]); }
`,
		"prices.ndjson": `{"price": 12.5}
{"price": {"amount": 3, "ccy": "EUR"}}
{"price": {"amount": "3"}}
{"price": [4, 5]}
{"price": []}
`,
	}, []run{
		{"check Desk prices.ndjson", 1, `2 of 5 responses would not decode: 2 breaks, 0 misreads in 1 model
  1/5  breaks  Price.Amount  the initialiser throws  Price.cs:6
  1/5  breaks  Price.Amount  "3", not decimal        Price.cs:6

Price  Desk/Price.cs:4:21
  C# by its own code
  decoded from prices at $: 5 objects in 5 responses
  2 of 5 responses would not decode because of it

  breaks    Amount: decimal  Desk/Price.cs:6:20  the initialiser throws [thrown-by-code]
            sent      an array  in 1 of 5 values, 1 of 5 responses
            example   prices.ndjson:5:11 #5  /price  []
            throws    JsonException: no price in []
            change    admit what is sent, or handle the error where it is caught

  breaks    Amount: decimal  Desk/Price.cs:6:20  a value of another kind [wrong-kind]
            sent      "3"  in 1 of 2 values, 1 of 5 responses
            example   prices.ndjson:3:22 #3  /price/amount  "3"
            throws    InvalidOperationException: An element of type 'String' cannot be converted to a 'System.Decimal'.
            change    both kinds are sent: look what it is before it is read: ValueKind of an element, Type of a token

findings   2 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  5 read from 1 capture: 5 checked, 0 without a model, 0 not judged
`},
		{"shape prices.ndjson -o prices.shape", 0, `prices.shape holds the shape of 5 responses in 1 capture
`},
		{"check Desk prices.shape", 0, `0 of 0 responses would not decode: 0 breaks, 0 misreads in 0 models

Not judged
  Price  Desk/Price.cs:4:21  its code does one thing or another by what is sent: give check the captures in place of a saved shape; it seems to be decoded from prices, 5 responses

findings   0 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 0 with findings, 0 clean, 0 without a response, 1 not judged
responses  5 read from 1 capture: 0 checked, 0 without a model, 5 not judged
1 model could not be judged though there are responses for it: Price
`},
	}},
	{"rows of Dart that code picks", files{
		"lib/notices.dart": `import 'dart:convert';

class Fog {
  Fog(this.visibility);
  factory Fog.fromJson(Map<String, dynamic> json) => Fog(json['visibility'] as int);
  final int visibility;
}

class Port {
  Port(this.code, this.berths);
  factory Port.fromJson(Map<String, dynamic> json) => Port(json['code'] as String, json['berths'] as int);
  final String code;
  final int berths;
}

List<Fog> fogs(String text) {
  final rows = jsonDecode(text)['notices'] as List;
  return [for (final e in rows) if (e['kind'] == 'fog') Fog.fromJson(e)];
}

List<Port> ports(String text) {
  final rows = jsonDecode(text)['ports'] as List;
  return [for (final e in rows) Port.fromJson(e)];
}
`,
		"ports.json":   `{"ports": [{"code": "SAL", "berths": 4}, {"code": "WIC"}]}` + "\n",
		"notices.json": `{"notices": [{"kind": "fog", "visibility": 200}, {"kind": "delay", "minutes": 15}]}` + "\n",
	}, []run{
		{"check lib ports.json notices.json", 1, `1 of 1 response would not decode: 1 break, 0 misreads in 1 model
  1/1  breaks  Port.berths  not always sent  notices.dart:13

Port  lib/notices.dart:9:7
  Dart by its own code
  decoded from ports at $.ports[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    berths: int  lib/notices.dart:13:13  the key is not always sent [missing-key]
            sent      no key berths  in 1 of 2 objects, 1 of 1 response
            example   ports.json:1:42  /ports/1  code "WIC"
            throws    _TypeError: type 'Null' is not a subtype of type 'int' in type cast
            change    json['berths'] ?? 0  // or declare int?, and read it as one

Not judged
  Fog  lib/notices.dart:3:7  code of the app picks what is decoded as it, at lib/notices.dart:16:11, by what is in it; it seems to be decoded from notices, 1 response

findings   1 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 1 not judged
responses  2 read from 2 captures: 1 checked, 0 without a model, 1 not judged
1 model could not be judged though there are responses for it: Fog
`},
	}},
	{"options of a union that a key tells apart", files{
		"web/notices.ts": `import { z } from 'zod';

const Notice = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('fog'), visibility: z.number() }),
  z.object({ kind: z.literal('delay'), minutes: z.number().int(), more: z.string().url().nullable() }),
]);
export const Page = z.object({ notices: z.array(Notice), next: z.string().url().optional() });

export async function notices() {
  return Page.parse(await (await fetch('/v2/notices')).json());
}
`,
		"notices.ndjson": `{"notices": [{"kind": "fog", "visibility": 200}, {"kind": "delay", "minutes": 15, "more": "https://saltmere.example/delays"}], "next": "https://saltmere.example/2"}
{"notices": [{"kind": "delay", "minutes": 7.5, "more": null}, {"kind": "swell"}, {"visibility": 40}], "next": "/v2/notices?page=3"}
`,
	}, []run{
		{"check web notices.ndjson", 1, `1 of 2 responses would not decode: 4 breaks, 0 misreads in 3 models
  1/2  breaks  Page.notices.2.minutes  7.5, not number                            notices.ts:5
  1/2  breaks  Page.notices.kind       "swell" is of no class                     notices.ts:7
  1/2  breaks  Page.notices.kind       not always sent                            notices.ts:7
  1/2  breaks  Page.next               "/v2/notices?page=3" is refused by a rule  notices.ts:7

Page.notices.2  web/notices.ts:5:14
  zod
  decoded from notices at $.notices[*] where kind is "delay": 2 objects in 2 responses
  1 of 2 responses would not decode because of it

  breaks    minutes: number  web/notices.ts:5:40  a value of another kind [wrong-kind]
            sent      7.5  in 1 of 2 values, 1 of 2 responses
            example   notices.ndjson:2:43 #2  /notices/0/minutes  7.5
            throws    ZodError: Invalid input: expected int, received number
            change    minutes: z.union([…, z.number()])  // both are sent: ask typeof where it is read

Page  web/notices.ts:7:14
  zod
  decoded from notices at $: 2 objects in 2 responses
  1 of 2 responses would not decode because of it

  breaks    notices.kind: an object | an object[]  web/notices.ts:7:32  objects of a kind that no class is named for [unknown-class]
            sent      "swell"  in 1 of 4 values, 1 of 2 responses
            example   notices.ndjson:2:72 #2  /notices/1/kind  "swell"
            throws    ZodError: Invalid discriminator value. Expected 'fog' | 'delay'
            change    add an option for "swell" to the union

  breaks    notices.kind: an object | an object[]  web/notices.ts:7:32  the key is not always sent [missing-key]
            sent      no key kind  in 1 of 5 objects, 1 of 2 responses
            example   notices.ndjson:2:82 #2  /notices/2  visibility 40
            throws    ZodError: Invalid discriminator value. Expected 'fog' | 'delay'
            change    add an option without it, by a union that is not told apart by kind

  breaks    next: string  web/notices.ts:7:58  a value that a rule of the schema refuses [refused-value]
            sent      "/v2/notices?page=3"  in 1 of 2 values, 1 of 2 responses
            example   notices.ndjson:2:111 #2  /next  "/v2/notices?page=3"
            throws    ZodError: Invalid URL
            change    loosen the rule where what is sent is right

findings   4 breaks, 0 misreads, 0 ignores
models     3 declared in 1 source file: 2 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 1 capture: 2 checked, 0 without a model, 0 not judged
`},
		{"trial web notices.ndjson", 1, `notices.ndjson#1 as Page: decodes
    place                    declared                          sent                               seen
    $.notices                notices: an object | an object[]  [2 elements]                       [2 elements]
    $.notices[0].kind        kind: 'fog'                       "fog"                              "fog"
    $.notices[0].visibility  visibility: number                200                                200
    $.notices[1].kind        kind: 'delay'                     "delay"                            "delay"
    $.notices[1].minutes     minutes: number                   15                                 15
    $.notices[1].more        more: string | null               "https://saltmere.example/delays"  "https://saltmere.example/delays"
    $.next                   next: string                      "https://saltmere.example/2"       "https://saltmere.example/2"

notices.ndjson#2 as Page: fails
  ZodError: Invalid input: expected int, received number  at $.notices[0].minutes  notices.ndjson:2:43
    place                 declared                          sent          seen
    $.notices             notices: an object | an object[]  [3 elements]  …
    $.notices[0].kind     kind: 'delay'                     "delay"       "delay"
  ! $.notices[0].minutes  minutes: number                   7.5           ZodError: Invalid input: expected int, received number
  all that is complained of
    $.notices[0].minutes  invalid_type  Invalid input: expected int, received number
    $.notices[1].kind  invalid_union  Invalid discriminator value. Expected 'fog' | 'delay'
    $.notices[2].kind  invalid_union  Invalid discriminator value. Expected 'fog' | 'delay'
    $.next  invalid_format  Invalid URL

`},
	}},
	{"a variant of valibot", files{
		"web/notices.ts": `import * as v from 'valibot';

const Notice = v.variant('kind', [
  v.object({ kind: v.literal('fog'), visibility: v.number() }),
  v.object({ kind: v.literal('delay'), minutes: v.number() }),
]);
export const Page = v.object({ notices: v.array(Notice) });

export async function notices() {
  return v.parse(Page, await (await fetch('/v2/notices')).json());
}
`,
		"notices.ndjson": `{"notices": [{"kind": "fog", "visibility": 200}, {"kind": "delay", "minutes": "15"}]}
{"notices": [{"kind": "swell"}]}
`,
	}, []run{
		{"check web notices.ndjson", 1, `2 of 2 responses would not decode: 2 breaks, 0 misreads in 3 models
  1/2  breaks  Page.notices.2.minutes  "15", not number        notices.ts:5
  1/2  breaks  Page.notices.kind       "swell" is of no class  notices.ts:7

Page.notices.2  web/notices.ts:5:14
  valibot
  decoded from notices at $.notices[*] where kind is "delay": 1 object in 2 responses
  1 of 2 responses would not decode because of it

  breaks    minutes: number  web/notices.ts:5:40  a value of another kind [wrong-kind]
            sent      a string that is a number  in 1 of 1 value, 1 of 2 responses
            example   notices.ndjson:1:79 #1  /notices/1/minutes  "15"
            throws    ValiError: Invalid type: Expected number but received "15"
            change    minutes: v.string()  // as it is sent

Page  web/notices.ts:7:14
  valibot
  decoded from notices at $: 2 objects in 2 responses
  1 of 2 responses would not decode because of it

  breaks    notices.kind: an object | an object[]  web/notices.ts:7:32  objects of a kind that no class is named for [unknown-class]
            sent      "swell"  in 1 of 3 values, 1 of 2 responses
            example   notices.ndjson:2:23 #2  /notices/0/kind  "swell"
            throws    ValiError: Invalid type: Expected ("fog" | "delay") but received "swell"
            change    add an option for "swell" to the union

findings   2 breaks, 0 misreads, 0 ignores
models     3 declared in 1 source file: 2 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 1 capture: 2 checked, 0 without a model, 0 not judged
`},
	}},
}
