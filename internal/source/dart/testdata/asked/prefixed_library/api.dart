library api; import 'dart:convert' as conv show jsonDecode, utf8; import "package:http/http.dart" as h;
import 'pier.dart';
extension on h.Response { List<T> all<T>(T Function(Map<String, dynamic>) f) => [for (final e in conv.jsonDecode(conv.utf8.decode(bodyBytes)) as List) f(e as Map<String, dynamic>)]; }
class Api { Future<List<Pier>> piers() async => (await h.get(Uri.https('saltmere.example', '/v2/piers'))).all(Pier.fromJson); } // asks List<Pier> GET https://saltmere.example/v2/piers
