import 'dart:convert';
import 'package:flutter/foundation.dart';
import 'package:http/http.dart';
import 'pier.dart';
List<Pier> _parse(String body) => (jsonDecode(body)['piers'] as List).map((e) => Pier.fromJson(e)).toList(); // asks List<Pier> no path
class PierService with ChangeNotifier {
  PierService(this._http);
  final Client _http;
  List<Pier> piers = [];
  bool loading = false;
  Future<void> load() async { // asks List<Pier> GET {}/v2/piers
    loading = true; notifyListeners();
    final response = await _http.get(Uri.parse('${Config.base}/v2/piers'), headers: {'Accept': 'application/json'});
    piers = await compute(_parse, response.body);
    loading = false; notifyListeners();
  }
}
class Config { static const base = String.fromEnvironment('BASE', defaultValue: 'https://api.saltmere.example'); }

