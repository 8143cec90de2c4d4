// document: {"seats":[1,2],"ports":["SAL"],"fares":{"adult":12},"gate":"A"}
// document: {"seats":[1,"2"],"ports":["SAL",null],"fares":{"adult":"12"},"gate":null}
// document: {"seats":[],"ports":[],"fares":{}}
// lost: 2 exactly
import 'dart:convert';

class Root {
  final List<int> seats; // want wrong-kind 1/4 in 1
  final Iterable<String> ports; // want null-value 1/3 in 1
  final Map<String, int> fares; // want wrong-kind 1/2 in 1
  late String gate; // want missing-key 1/3 in 1; null-value 1/2 in 1

  Root.fromJson(Map<String, dynamic> json)
      : seats = (json['seats'] as List).cast<int>(),
        ports = (json['ports'] as List).map((e) => e as String),
        fares = (json['fares'] as Map<String, dynamic>).cast<String, int>() {
    if (json['gate'] != null) gate = json['gate'];
  }
}

Root load(String body) => Root.fromJson(jsonDecode(body));
