// GENERATED CODE - DO NOT MODIFY BY HAND

part of 'harbour.dart';

// The class was changed since: imageUrl was image, and openSince is new.

Harbour _$HarbourFromJson(Map<String, dynamic> json) => Harbour(
      code: json['code'] as String,
      name: json['name'] as String,
      depth: (json['depth'] as num).toDouble(),
      imageUrl: json['image'] as String?,
      berths: (json['berths'] as List<dynamic>)
          .map((e) => HarbourBerth.fromJson(e as Map<String, dynamic>))
          .toList(),
    );

HarbourBerth _$HarbourBerthFromJson(Map<String, dynamic> json) => HarbourBerth(
      (json['number'] as num).toInt(),
      (json['length'] as num).toDouble(),
    );
