/// What the board of the quay shows, read by hand.
class DepartureBoard {
  final List<Departure> departures;

  DepartureBoard({required this.departures});

  factory DepartureBoard.fromJson(Map<String, dynamic> json) => DepartureBoard(
        departures: (json['sailings'] as List).map((e) => Departure.fromJson(e as Map<String, dynamic>)).toList(),
      );
}

enum DepartureStatus {
  onTime('on_time'),
  delayed('delayed'),
  full('full');

  const DepartureStatus(this.code);
  final String code;

  static DepartureStatus of(String code) => values.firstWhere((s) => s.code == code);
}

class Departure {
  final int id;
  final String from;
  final String to;
  final DateTime departsAt;
  final double knots;
  final DepartureStatus status;
  final String gate;
  final List<String> stops;

  Departure.fromJson(Map<String, dynamic> json)
      : id = json['id'],
        from = json['from'],
        to = json['to'],
        departsAt = DateTime.parse(json['departs_at']),
        knots = json['vessel']['knots'],
        status = DepartureStatus.of(json['status']),
        gate = json['gate'] ?? '–',
        stops = json['stops'] ?? [];
}
