// document: {"name":"Saltmere","address":{"street":"Quay 1","code":{"postal":"SM1"}},"extras":{"lifts":2},"berths":[{"no":1,"length":80},{"no":2,"length":60}],"links":{"web":"w"},"labels":{"en":"a"}}
// document: {"name":"Ness","address":{"street":"Pier","code":{"postal":"NE1"}},"extras":{"lifts":0},"berths":[],"links":{"web":"v"},"labels":{"en":"b"}}
// lost: 0 exactly
import 'dart:convert';
import 'package:flutter/material.dart';

class Root {
  final String name;
  final Map<String, dynamic> address; // want reached-key 2/2 in 2
  final dynamic extras; // want reached-key 2/2 in 2
  final List<Map<String, dynamic>> berths; // want reached-key 2/2 in 1
  final Map<String, dynamic>? links;
  final Map<String, dynamic> labels;

  Root.fromJson(Map<String, dynamic> json)
      : name = json['name'],
        address = json['address'],
        extras = json['extras'],
        berths = (json['berths'] as List).cast<Map<String, dynamic>>(),
        links = json['links'],
        labels = json['labels'];

  String get postcode => address['code']['zip'] ?? '';
  // One key for another, and one that is looked for first, are meant to be absent.
  String get web => links?['site'] ?? links?['web'] ?? '';
  String? get phone => links!.containsKey('phone') ? links!['phone'] : null;
  String label(String language) => labels[language] ?? name;
}

class RootPage extends StatefulWidget {
  const RootPage({super.key, required this.port, required this.all});
  final Root port;
  final List<Root> all;
  @override
  State<RootPage> createState() => _RootPageState();
}

class _RootPageState extends State<RootPage> {
  @override
  Widget build(BuildContext context) {
    return Column(children: [
      Text(widget.port.address['street']),
      Text(widget.port.address['town']),
      ListView.builder(itemBuilder: (context, i) {
        final port = widget.all[i];
        return Text('${port.extras?['lift']}');
      }),
      for (final b in widget.port.berths) Text(b['lenght'].toString()),
    ]);
  }
}

Root load(String text) => Root.fromJson(jsonDecode(text));
