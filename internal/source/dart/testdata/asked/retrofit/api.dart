import 'package:retrofit/retrofit.dart';
import 'package:dio/dio.dart' hide Headers;
import 'pier.dart';
@RestApi()
abstract class RestClient {
  factory RestClient(Dio dio, {String baseUrl}) = _RestClient;
  @GET('/v2/piers') Future<List<Pier>> piers(@Query('page') int page); // asks List<Pier> GET /v2/piers
  @GET('/v2/piers/{id}') Future<HttpResponse<Pier>> pier(@Path() int id); // asks Pier GET /v2/piers/{id}
  @POST('/v2/piers') Future<Pier> add(@Body() Pier pier); // asks Pier POST /v2/piers
  @GET('/v2/map') Future<Map<String, Pier>> byName(); // asks Map<String, Pier> GET /v2/map
}
class Repo { Repo(this.client); final RestClient client; Future<Pier> first() async => (await client.piers(1)).first; }

