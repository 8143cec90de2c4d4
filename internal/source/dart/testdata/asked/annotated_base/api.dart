import 'package:chopper/chopper.dart';
import 'pier.dart';
part 'api.chopper.dart';
@ChopperApi(baseUrl: '/v2/piers')
abstract class PierService extends ChopperService {
  static PierService create([ChopperClient? client]) => _$PierService(client);
  @Get(path: '/{id}')
  Future<Response<Pier>> one(@Path() String id); // asks Pier GET /v2/piers/{id}
  @Get()
  Future<Response<List<Pier>>> all(); // asks List<Pier> GET /v2/piers
}

