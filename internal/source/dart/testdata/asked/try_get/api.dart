import 'dart:convert';
import 'package:flutter/services.dart' show rootBundle;
import 'package:http/http.dart';
import 'pier.dart';
Future<T?> tryGet<T>(String url, T Function(dynamic) f) async {
  try { final r = await get(Uri.parse(url)); if (r.statusCode == 200) { return f(jsonDecode(r.body)); } } catch (e, s) { print('$e $s'); }
  return null;
}
Future<Pier?> pier(int id) => tryGet('https://h/v2/piers/$id', (j) => Pier.fromJson(j['pier'])); // asks Pier GET https://h/v2/piers/{}
Future<List<Pier>> piers() async => await tryGet<List<Pier>>('https://h/v2/piers', (j) => List<Pier>.from((j as Iterable).map((m) => Pier.fromJson(m)))) ?? []; // asks List<Pier> GET https://h/v2/piers
Future<List<Pier>> bundled() async => (json.decode(await rootBundle.loadString('assets/piers.json')) as List).map((e) => Pier.fromJson(e)).toList(); // asks List<Pier> no path

