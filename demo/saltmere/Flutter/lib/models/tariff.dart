import 'package:json_annotation/json_annotation.dart';

part 'tariff.g.dart';

@JsonSerializable(fieldRename: FieldRename.snake)
class Tariff {
  final int sailingId;
  final String currency;
  final List<TicketPrice> fares;

  Tariff({required this.sailingId, required this.currency, required this.fares});

  factory Tariff.fromJson(Map<String, dynamic> json) => _$TariffFromJson(json);
}

@JsonSerializable(fieldRename: FieldRename.snake)
class TicketPrice {
  final String ticket;
  final double amount;
  final DateTime? validUntil;

  TicketPrice({required this.ticket, required this.amount, this.validUntil});

  factory TicketPrice.fromJson(Map<String, dynamic> json) => _$TicketPriceFromJson(json);
}
