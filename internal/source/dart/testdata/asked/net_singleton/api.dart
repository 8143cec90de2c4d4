import 'package:dio/dio.dart';
import 'pier.dart';
class Endpoints { static const piers = '/v2/piers'; static String pier(String id) => '$piers/$id'; }
class Net {
  Net._();
  static final Net instance = Net._();
  final Dio _dio = Dio(BaseOptions(baseUrl: 'https://api.saltmere.example'))..interceptors.add(LogInterceptor());
  Future<dynamic> getData(String url, {Map<String, dynamic>? query}) async {
    final Response response = await _dio.get(url, queryParameters: query);
    return response.data;
  }
}
class PierRepo {
  final Net net = Net.instance;
  Future<List<Pier>> all() async { // asks List<Pier> GET /v2/piers
    final data = await net.getData(Endpoints.piers);
    final list = <Pier>[];
    for (final p in data['data']) { list.add(Pier.fromJson(p)); }
    return list;
  }
  Future<Pier?> one(String id) async { // asks Pier GET /v2/piers/{}
    try { final d = await net.getData(Endpoints.pier(id)); return Pier.fromJson(d); } on DioException catch (e) { if (e.response?.statusCode == 404) return null; rethrow; }
  }
}

