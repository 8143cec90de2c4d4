import 'package:json_annotation/json_annotation.dart';

part 'harbour.g.dart';

@JsonSerializable(fieldRename: FieldRename.snake)
class Harbour {
  final String code;
  final String name;
  final double depth;
  final String? imageUrl;
  final int? openSince;
  final List<HarbourBerth> berths;

  Harbour({required this.code, required this.name, required this.depth, this.imageUrl, this.openSince, required this.berths});

  factory Harbour.fromJson(Map<String, dynamic> json) => _$HarbourFromJson(json);
}

@JsonSerializable()
class HarbourBerth {
  final int number;
  final double length;

  HarbourBerth(this.number, this.length);

  factory HarbourBerth.fromJson(Map<String, dynamic> json) => _$HarbourBerthFromJson(json);
}
