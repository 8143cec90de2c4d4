package breaks

import "vetta/internal/drift/finding"

// UntypedList is the kind untyped-list: a decoded list where Dart reads a list of a type.
var UntypedList = &finding.Kind{
	Name:  "untyped-list",
	Level: finding.Breaks,
	Title: "a decoded list where a list of a type is read",
	Text: `What is decoded is a List<dynamic>, whatever is in it, also where it is empty, and that
is no List<String>: the code throws whenever the key is there. So does what .map(…).toList()
makes of a dynamic value. Only a default, as in json['tags'] ?? [], ever gets through.`,
	Examples: []finding.Example{
		{In: "Dart", Code: `class Port {
  final List<String> tags;
  Port.fromJson(Map<String, dynamic> json) : tags = json['tags'] ?? [];
}`, Sent: `{"tags": ["ferry"]}`},
	},
	Fix: `Make a list of the type: List<String>.from(json['tags'] ?? []), or
(json['legs'] as List).map((e) => Leg.fromJson(e)).toList().`,
	Takes: func(ev *finding.Event) bool {
		return finding.Throws("type 'List<dynamic>' is not a subtype of type 'List<")(ev) || finding.Throws("type 'List<dynamic>' is not a subtype of type 'Set<")(ev)
	},
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("make a list of the type: List<…>.from(…), or (… as List).map(…).toList()")
	},
}
