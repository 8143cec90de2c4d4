// document: {"best":{"height":1.5,"at":"2026-03-01"},"list":[{"height":2,"at":"2026-03-01"},{"height":"3","at":"x"}],"data":{"port":{"name":"Saltmere"}},"names":{"en":"Tide","de":5},"k":"a","a":1}
// document: {"best":{"height":"1"},"list":[],"data":{"port":{}},"names":{},"k":"b","a":"x"}
// document: {"list":[null],"data":{},"names":{"en":null},"k":"c"}
// lost: 3
import 'dart:convert';

class Tide { // want unread-keys at,at
  final num height; // want dropped-element 1/2 in 1; swallowed-error 1/2 in 1
  Tide(this.height);
  factory Tide.fromJson(Map<String, dynamic> json) => Tide(json['height'] as num);
  static Tide? tryJson(dynamic json) {
    try {
      return Tide.fromJson(json);
    } catch (e) {
      print('tide: $e');
      return null;
    }
  }
}

class Root {
  final Tide? best;
  final List<Tide> list; // want dropped-element 1/3 in 1
  final String port; // want missing-key 2/5 in 2
  final Map<String, String> names; // want mixed-values 2/3 in 2
  final int either;
  Root(this.best, this.list, this.port, this.names, this.either);
  factory Root.fromJson(Map<String, dynamic> json) {
    final list = <Tide>[];
    for (final t in json['list'] as List) {
      try {
        list.add(Tide.fromJson(t));
      } catch (_) {}
    }
    final key = json['k'];
    return Root(Tide.tryJson(json['best']), list, json['data']['port']['name'], (json['names'] as Map).map((k, v) => MapEntry(k, v)), key == 'c' ? 0 : json['a']);
  }
}

Root load(String body) => Root.fromJson(jsonDecode(body));
