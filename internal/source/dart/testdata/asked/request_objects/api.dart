import 'dart:convert';
import 'package:http/http.dart' as http;
import 'pier.dart';
abstract class Request<T> { String get path; String get method => 'GET'; T decode(dynamic json); }
class PiersRequest extends Request<List<Pier>> { @override String get path => '/v2/piers'; @override List<Pier> decode(dynamic json) => [for (final j in json as List) Pier.fromJson(j)]; }
class PierRequest extends Request<Pier> { final int id; PierRequest(this.id); @override String get path => '/v2/piers/$id'; @override Pier decode(json) => Pier.fromJson(json); }
class Client {
  final _c = http.Client();
  Future<T> send<T>(Request<T> r) async { // asks List<Pier> GET https://api.saltmere.example/v2/piers; Pier GET https://api.saltmere.example/v2/piers/{}
    final res = await http.Response.fromStream(await _c.send(http.Request(r.method, Uri.parse('https://api.saltmere.example${r.path}'))));
    return r.decode(jsonDecode(res.body));
  }
}
class Screen { final Client c = Client(); Future<void> init() async { final all = await c.send(PiersRequest()); final one = await c.send(PierRequest(all.first.id)); print(one.name); } }

