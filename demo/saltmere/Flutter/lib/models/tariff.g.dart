// GENERATED CODE - DO NOT MODIFY BY HAND

part of 'tariff.dart';

Tariff _$TariffFromJson(Map<String, dynamic> json) => Tariff(
      sailingId: (json['sailing_id'] as num).toInt(),
      currency: json['currency'] as String,
      fares: (json['fares'] as List<dynamic>)
          .map((e) => TicketPrice.fromJson(e as Map<String, dynamic>))
          .toList(),
    );

TicketPrice _$TicketPriceFromJson(Map<String, dynamic> json) => TicketPrice(
      ticket: json['ticket'] as String,
      amount: (json['amount'] as num).toDouble(),
      validUntil: json['valid_until'] == null
          ? null
          : DateTime.parse(json['valid_until'] as String),
    );
