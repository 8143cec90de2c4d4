import 'package:dio/dio.dart';
import 'pier.dart';
class Page<T> { final List<T> items; final int total; Page(this.items, this.total); factory Page.fromJson(Map<String, dynamic> j, T Function(Map<String, dynamic>) f) => Page((j['items'] as List).map((e) => f(e as Map<String, dynamic>)).toList(), j['total']); }
abstract class BaseRepo<T> {
  BaseRepo(this.dio, this.path);
  final Dio dio; final String path;
  T fromJson(Map<String, dynamic> j);
  Future<Page<T>> page(int n) async { final r = await dio.get<Map<String, dynamic>>(path, queryParameters: {'page': n}); return Page.fromJson(r.data!, fromJson); } // asks Page<Pier> GET /v2/piers
  Future<T> get(int id) async => fromJson((await dio.get('$path/$id')).data); // asks Pier GET /v2/piers/{}
}
class PierRepo extends BaseRepo<Pier> { PierRepo(Dio d) : super(d, '/v2/piers'); @override Pier fromJson(Map<String, dynamic> j) => Pier.fromJson(j); }

