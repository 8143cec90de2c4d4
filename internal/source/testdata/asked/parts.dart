import 'dart:convert';

class Fog {
  Fog(this.visibility);
  factory Fog.fromJson(Map<String, dynamic> json) => Fog(json['visibility'] as int);
  final int visibility;
}

class Delay {
  Delay(this.minutes);
  factory Delay.fromJson(Map<String, dynamic> json) => Delay(json['minutes'] as int);
  final int minutes;
}

class Port {
  Port(this.code);
  factory Port.fromJson(Map<String, dynamic> json) => Port(json['code'] as String);
  final String code;
}

List<Object> notices(String text) { // asks Delay within items pickedFog within items picked
  final root = jsonDecode(text) as Map<String, dynamic>;
  final out = <Object>[];
  for (final e in root['items'] as List) {
    if (e['kind'] == 'fog') {
      out.add(Fog.fromJson(e));
    } else {
      out.add(Delay.fromJson(e));
    }
  }
  return out;
}

List<Port> ports(String text) { // asks List<Port> within ports
  final root = jsonDecode(text) as Map<String, dynamic>;
  if (root['ports'] == null) return [];
  return [for (final e in root['ports'] as List) Port.fromJson(e)];
}
