import 'dart:convert';
import 'dart:io';
import 'pier.dart';
Future<List<Pier>> fetchPiers() async { // asks List<Pier> GET https://api.saltmere.example/v2/piers
  final client = HttpClient();
  final request = await client.getUrl(Uri.parse('https://api.saltmere.example/v2/piers'));
  final response = await request.close();
  final body = await response.transform(utf8.decoder).join();
  return parsePiers(body);
}
List<Pier> parsePiers(String text) { // asks List<Pier> no path
  final parsed = jsonDecode(text).cast<Map<String, dynamic>>();
  return parsed.map<Pier>((j) => Pier.fromJson(j)).toList();
}

