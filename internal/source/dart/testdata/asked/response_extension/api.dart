import 'dart:convert';
import 'package:http/http.dart' as http;
import 'pier.dart';
extension JsonResponse on http.Response {
  Map<String, dynamic> get json => jsonDecode(body) as Map<String, dynamic>;
  T decoded<T>(T Function(Map<String, dynamic>) f) => f(json);
}
final pierProvider = FutureProvider.family<Pier, int>((ref, id) async { // asks Pier GET https://api.saltmere.example/v2/piers/{}
  final res = await http.get(Uri.parse('https://api.saltmere.example/v2/piers/$id'));
  return res.decoded(Pier.fromJson);
});
class P { Future<Pier> x(int id) async => (await http.get(Uri.parse('https://api.saltmere.example/v2/piers/$id'))).decoded(Pier.fromJson);  // asks Pier GET https://api.saltmere.example/v2/piers/{}
 Future<Pier> then(int id) => http.get(Uri.parse('https://api.saltmere.example/v2/piers/$id')).then((r) => Pier.fromJson(r.json)); } // asks Pier GET https://api.saltmere.example/v2/piers/{}

