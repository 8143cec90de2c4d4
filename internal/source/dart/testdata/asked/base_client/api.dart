import 'dart:convert';
import 'package:http/http.dart' as http;
import 'pier.dart';
class HttpService extends http.BaseClient {
  final http.Client _inner = http.Client();
  @override
  Future<http.StreamedResponse> send(http.BaseRequest request) { request.headers['x'] = 'y'; return _inner.send(request); }
}
class ApiResponse<T> { final bool success; final T? data; final String? message; ApiResponse({required this.success, this.data, this.message});
  factory ApiResponse.fromJson(Map<String, dynamic> json, T Function(Object? json) f) => ApiResponse(success: json['success'] as bool, data: json['data'] == null ? null : f(json['data']), message: json['message'] as String?); }
class Piers {
  final http.Client client = HttpService();
  Uri _uri(String p, [Map<String, String>? q]) => Uri(scheme: 'https', host: 'h', path: '/v2/$p', queryParameters: q);
  Future<ApiResponse<Pier>> byId(int id) async { // asks ApiResponse<Pier> GET /v2/piers/{}
    final r = await client.get(_uri('piers/$id'));
    _check(r);
    return ApiResponse.fromJson(jsonDecode(r.body) as Map<String, dynamic>, (j) => Pier.fromJson(j as Map<String, dynamic>));
  }
  Future<ApiResponse<List<Pier>>> all() async { // asks ApiResponse<List<Pier>> GET /v2/piers
    final r = await client.get(_uri('piers', {'limit': '10'}));
    final map = jsonDecode(r.body);
    return ApiResponse<List<Pier>>.fromJson(map, (j) => (j as List).map((e) => Pier.fromJson(e)).toList());
  }
  void _check(http.Response r) { if (r.statusCode >= 400) throw Exception(r.body); }
}

