package breaks

import "vetta/internal/drift/finding"

// IntForDouble is the kind int-for-double: a whole number where Dart reads a double.
var IntForDouble = &finding.Kind{
	Name:  "int-for-double",
	Level: finding.Breaks,
	Title: "a whole number where a double is read",
	Text: `A number that is written without a fraction is an int to Dart, and an int is no
double: the price that comes as 12 in place of 12.0 throws. On the web, where all
numbers are of one kind, it does not.`,
	Examples: []finding.Example{
		{In: "Dart", Code: `class Fare {
  final double amount;
  Fare.fromJson(Map<String, dynamic> json) : amount = json['amount'];
}`, Sent: `{"amount": 12.5}
{"amount": 12}`},
	},
	Fix:   `Read it as a num: (json['amount'] as num).toDouble().`,
	Takes: finding.Throws("type 'int' is not a subtype of type 'double"),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("read it as a num and make a double of it: (… as num).toDouble()")
	},
}
