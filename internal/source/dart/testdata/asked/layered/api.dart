import 'package:dio/dio.dart';
import 'package:injectable/injectable.dart';
import 'pier.dart';
abstract interface class PierRemoteDataSource { Future<List<Pier>> getPiers({required int page}); }
@LazySingleton(as: PierRemoteDataSource)
class PierRemoteDataSourceImpl implements PierRemoteDataSource {
  const PierRemoteDataSourceImpl(this._client);
  final ApiClient _client;
  @override
  Future<List<Pier>> getPiers({required int page}) => _client.getList<Pier>(path: ApiPath.piers, fromJson: Pier.fromJson, query: {'page': page}); // asks List<Pier> GET /v2/piers
}
abstract class ApiPath { static const String _v = '/v2'; static const piers = '$_v/piers'; }
class ApiClient {
  ApiClient(this._dio);
  final Dio _dio;
  Future<List<T>> getList<T>({required String path, required T Function(Map<String, dynamic>) fromJson, Map<String, dynamic>? query}) async {
    final response = await _request<List<dynamic>>('GET', path, query: query);
    return response.map((e) => fromJson(e as Map<String, dynamic>)).toList(growable: false);
  }
  Future<T> _request<T>(String method, String path, {Map<String, dynamic>? query}) async {
    try {
      final response = await _dio.request<dynamic>(path, queryParameters: query, options: Options(method: method));
      final data = response.data;
      if (data is T) return data;
      throw FormatException('unexpected');
    } on DioException catch (e) { throw ApiFailure(e.message ?? ''); }
  }
}
class ApiFailure implements Exception { ApiFailure(this.message); final String message; }
class PierRepository { PierRepository(this.remote); final PierRemoteDataSource remote; Future<List<Pier>> piers() async => remote.getPiers(page: 1); } // asks List<Pier> GET /v2/piers

