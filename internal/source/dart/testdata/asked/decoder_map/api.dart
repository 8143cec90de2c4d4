import 'dart:async';
import 'dart:convert';
import 'package:http/http.dart' as http;
import 'pier.dart';
typedef Decoder<T> = T Function(dynamic);
final Map<Type, Decoder> _decoders = { Pier: (j) => Pier.fromJson(j) };
class Api {
  Future<T> fetch<T>(String path) async {
    final r = await http.get(Uri.parse('https://api.saltmere.example' + path)).timeout(const Duration(seconds: 5));
    final j = jsonDecode(r.body);
    return _decoders[T]!(j) as T;
  }
  Future<List<T>> list<T>(String path) async { final r = await http.get(Uri.parse('https://api.saltmere.example' + path)); return [for (final e in jsonDecode(r.body)) _decoders[T]!(e) as T]; }
}
class Home { final api = Api(); late Future<Pier> pier = api.fetch<Pier>('/v2/piers/1'); Future<List<Pier>> all() => api.list<Pier>('/v2/piers'); } // asks Pier GET https://api.saltmere.example/v2/piers/1; List<Pier> GET https://api.saltmere.example/v2/piers

