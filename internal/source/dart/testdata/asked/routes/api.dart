import 'dart:convert';
import 'package:http/http.dart' as http;
import 'pier.dart';
enum Route { piers('/v2/piers'), pier('/v2/piers/{id}'); const Route(this.path); final String path; String fill(Map<String, Object> v) => v.entries.fold(path, (p, e) => p.replaceAll('{${e.key}}', '${e.value}')); }
class Api with Logged {
  Future<Map<String, dynamic>> _json(Route r, [Map<String, Object> v = const {}]) async {
    final res = await http.get(Uri.parse('https://h${r.fill(v)}'));
    log(r.path);
    return jsonDecode(res.body);
  }
  Future<Pier> pier(int id) async { final json = await _json(Route.pier, {'id': id}); return Pier.fromJson(json); } // asks Pier GET https://h/v2/piers/{}
  Stream<Pier> watch(int id) async* { while (true) { yield await pier(id); } }
}
mixin Logged { void log(String s) => print(s); }

