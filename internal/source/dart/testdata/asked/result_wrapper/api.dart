import 'dart:convert';
import 'package:http/http.dart' as http;
import 'pier.dart';
sealed class Result<T> {}
class Ok<T> extends Result<T> { final T value; Ok(this.value); }
class Err<T> extends Result<T> { final Object error; Err(this.error); }
abstract class Api {
  final http.Client client;
  Api(this.client);
  Future<Result<T>> call<T>(String path, T Function(Map<String, dynamic>) parse) async {
    try {
      final res = await client.get(Uri.https('api.saltmere.example', path));
      if (res.statusCode >= 200 && res.statusCode < 300) return Ok(parse(json.decode(utf8.decode(res.bodyBytes))));
      return Err('status');
    } catch (e) { return Err(e); }
  }
}
class PierApi extends Api {
  PierApi(super.client);
  Future<Result<Pier>> pier(int id) => call('/v2/piers/$id', Pier.fromJson); // asks Pier GET /v2/piers/{}
}

