// document: {"id":1,"price":12.5,"fare":1.5,"tags":["car"],"legs":[{"code":"SAL"}],"departs":"2026-03-01","level":"low","seats":40,"depth":2,"note":"n","berths":[{"no":1}],"closed":"2026-03-01"}
// document: {"id":2,"price":12,"fare":1,"tags":[],"legs":[],"departs":"2026-02-30","level":"high","seats":null,"depth":2.5,"berths":[{"no":"2"},{"no":3}],"closed":"soon"}
// document: {"id":3,"price":13,"fare":2,"legs":[{"code":null}],"departs":"2026-03-01","level":"mid","depth":3,"note":7,"berths":{},"closed":"2026-03-01"}
// lost: 3 exactly
import 'dart:convert';

enum Level { low, high }

class Leg {
  final String code;
  Leg(this.code);
  factory Leg.fromJson(Map<String, dynamic> json) => Leg(json['code'] as String); // the property is at fault
}

class Berth {
  final int no; // want wrong-kind 1/3 in 1
  Berth.fromJson(Map<String, dynamic> json) : no = json['no'];
}

class Root {
  final int id;
  final double price; // want int-for-double 2/3 in 2
  final double fare;
  final List<String> tags; // want untyped-list 2/2 in 2
  final List<Leg> legs; // want untyped-list 3/3 in 3
  final DateTime departs; // want rolled-date 1/3 in 1
  final Level level; // want unknown-constant 1/3 in 1
  final int seats; // want missing-key 1/3 in 1; null-value 1/2 in 1
  final int depth; // want lost-digits 1/3 in 1
  final String? note; // want wrong-kind 1/2 in 1
  final List<Berth> berths; // want list-mismatch 1/3 in 1
  final DateTime? closed; // want swallowed-error 1/3 in 1; never-absent 3/3 in 3

  Root({
    required this.id,
    required this.price,
    required this.fare,
    required this.tags,
    required this.legs,
    required this.departs,
    required this.level,
    this.seats = 40,
    required this.depth,
    this.note,
    required this.berths,
    this.closed,
  });

  factory Root.fromJson(Map<String, dynamic> json) {
    return Root(
      id: json['id'],
      price: json['price'],
      fare: (json['fare'] as num).toDouble(),
      tags: json['tags'] ?? [],
      legs: json['legs'].map((e) => Leg.fromJson(e)).toList(),
      departs: DateTime.parse(json['departs']),
      level: Level.values.firstWhere((l) => l.name == json['level']),
      seats: json['seats'],
      depth: (json['depth'] as num).toInt(),
      note: json['note'],
      berths: [for (final b in json['berths']) Berth.fromJson(b)],
      closed: DateTime.tryParse(json['closed'] ?? ''),
    );
  }
}

Root load(String body) => Root.fromJson(jsonDecode(body));
