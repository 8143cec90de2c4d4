import 'dart:convert';
import 'package:http/http.dart' as http;
import 'pier.dart';
class PierBloc extends Bloc<PierEvent, PierState> {
  PierBloc() : super(PierInitial()) {
    on<LoadPiers>(_load);
  }
  Future<void> _load(LoadPiers e, Emitter<PierState> emit) async { // asks List<Pier> GET /v2/piers
    emit(PierLoading());
    try {
      final uri = Uri(scheme: 'https', host: 'api.saltmere.example', path: '/v2/piers', queryParameters: {'q': e.query});
      final res = await http.get(uri, headers: await headers());
      switch (res.statusCode) {
        case 200:
          final decoded = jsonDecode(res.body) as Map<String, dynamic>;
          final piers = (decoded['results'] as List<dynamic>).map((x) => Pier.fromJson(x as Map<String, dynamic>)).toList();
          emit(PierLoaded(piers));
          break;
        default: emit(PierError('x'));
      }
    } catch (e) { emit(PierError('$e')); }
  }
}
class PierLoaded extends PierState { final List<Pier> piers; PierLoaded(this.piers); }
abstract class PierState {} class PierInitial extends PierState {} class PierLoading extends PierState {} class PierError extends PierState { final String m; PierError(this.m); }
class PierEvent {} class LoadPiers extends PierEvent { final String query; LoadPiers(this.query); }

