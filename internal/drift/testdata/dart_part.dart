// document: {"id":1,"berth_no":3,"no":3,"depth":2,"open":true,"kind":"foot"}
// document: {"id":2,"berth_no":4,"no":5,"depth":"deep","open":true,"kind":"CAR"}
// lost: 1 exactly
import 'dart:convert';
import 'package:json_annotation/json_annotation.dart';

enum Kind { foot, @JsonValue('CAR') car }

@JsonSerializable(fieldRename: FieldRename.snake)
class Root { // want unread-keys berth_no
  final int id;
  final int berthNo; // want stale-part 2/2 in 2
  final int depth; // want wrong-kind 1/2 in 1
  final bool? open; // want stale-part 2/2 in 2; never-read 2/2 in 2
  final Kind kind;
  Root({required this.id, required this.berthNo, required this.depth, this.open, required this.kind});
  factory Root.fromJson(Map<String, dynamic> json) => _$RootFromJson(json);
}

// What the generator wrote before the class was changed.
Root _$RootFromJson(Map<String, dynamic> json) => Root(
      id: json['id'] as int,
      berthNo: (json['no'] as num).toInt(),
      depth: (json['depth'] as num).toInt(),
      kind: $enumDecode(_$KindEnumMap, json['kind']),
    );

const _$KindEnumMap = {Kind.foot: 'foot', Kind.car: 'CAR'};

Root load(String body) => Root.fromJson(jsonDecode(body));
