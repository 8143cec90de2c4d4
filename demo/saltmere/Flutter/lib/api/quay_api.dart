import 'dart:convert';

import 'package:http/http.dart' as http;

import '../models/departure.dart';
import '../models/harbour.dart';
import '../models/notice.dart';
import '../models/tariff.dart';

/// Talks to the Saltmere Ferries API for the two screens of the quay.
class QuayApi {
  QuayApi({http.Client? client}) : _client = client ?? http.Client();

  static const _base = 'https://api.saltmere.example/v2';
  final http.Client _client;

  Future<DepartureBoard> board(String day) =>
      _get('/sailings?day=$day', (json) => DepartureBoard.fromJson(json as Map<String, dynamic>));

  Future<List<Harbour>> harbours() =>
      _get('/ports', (json) => (json as List).map((e) => Harbour.fromJson(e)).toList());

  Future<Tariff> tariff(int sailing) => _get('/sailings/$sailing/fares', (json) => Tariff.fromJson(json));

  Future<List<QuayNotice>> notices() async {
    final json = await _get<Map<String, dynamic>>('/notices', (json) => json);
    return [for (final n in json['notices'] as List) QuayNotice.fromJson(n)];
  }

  Future<T> _get<T>(String path, T Function(dynamic json) read) async {
    final response = await _client.get(Uri.parse('$_base$path'));
    if (response.statusCode != 200) {
      throw http.ClientException('status ${response.statusCode}', Uri.parse(path));
    }
    return read(jsonDecode(response.body));
  }
}
