import 'dart:convert';
import 'package:http/http.dart' as http;
import 'package:flutter/material.dart';
import 'pier.dart';
class PierPage extends StatefulWidget { const PierPage({super.key, required this.id}); final int id; @override State<PierPage> createState() => _PierPageState(); }
class _PierPageState extends State<PierPage> {
  Pier? pier; late Future<List<Pier>> all;
  @override void initState() { super.initState(); all = fetchAll(); _load(); }
  Future<List<Pier>> fetchAll() async { final res = await http.get(Uri.parse('https://h/v2/piers')); if (res.statusCode != 200) throw Exception('no'); final List<dynamic> data = jsonDecode(res.body); return data.map((json) => Pier.fromJson(json)).toList(); } // asks List<Pier> GET https://h/v2/piers
  void _load() { http.get(Uri.parse('https://h/v2/piers/${widget.id}')).then((res) { setState(() { pier = Pier.fromJson(jsonDecode(res.body)); }); }); } // asks Pier GET https://h/v2/piers/{}
  @override Widget build(BuildContext context) => FutureBuilder<List<Pier>>(future: all, builder: (c, s) => s.hasData ? ListView(children: [for (final p in s.data!) Text(p.name)]) : const CircularProgressIndicator());
}

