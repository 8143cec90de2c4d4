/*
 * Saltmere Ferries, the Flutter app.
 *
 * Line NNN: what the app knows of its sailings, and what it shows of them.
 */
import 'dart:async';
import 'dart:convert';

import 'package:flutter/material.dart';
import 'package:http/http.dart' as http;
import 'package:saltmere/core/clock.dart';
import 'package:saltmere/core/money.dart';
import 'package:saltmere/core/reporter.dart';

enum StatusNNN { onTime, delayed, cancelled }

/// A sailing of line NNN, as GET /v2/lines/NNN/sailings answers it.
class SailingNNN {
  const SailingNNN({required this.id, required this.from, required this.to, this.departsAt, required this.vessel, required this.status, this.seatsLeft, this.price = 12.5, this.notices = const []});

  factory SailingNNN.fromJson(Map<String, dynamic> json) {
    return SailingNNN(
      id: json['id'] as int,
      from: json['from'] as String,
      to: json['to'] as String,
      departsAt: json['departs_at'] == null ? null : DateTime.parse(json['departs_at'] as String),
      vessel: VesselNNN.fromJson(json['vessel'] as Map<String, dynamic>),
      status: StatusNNN.values.byName(json['status'] as String),
      seatsLeft: json['seats_left'] as int?,
      price: (json['price'] as num?)?.toDouble() ?? 12.5,
      notices: (json['notices'] as List<dynamic>? ?? []).map((e) => NoticeNNN.fromJson(e as Map<String, dynamic>)).toList(),
    );
  }

  final int id;
  final String from, to;

  /// When it leaves, by the clock of the port that it leaves.
  final DateTime? departsAt;
  final VesselNNN vessel;
  final StatusNNN status;
  final int? seatsLeft;
  final double price;
  final List<NoticeNNN> notices;

  /// "final int ghost;" is no field.
  bool get isFull => seatsLeft == 0 && notices.isNotEmpty;
  String label(String day) => '$from to $to, ${day.trim()}';
  static const max = 3;
}

class VesselNNN {
  const VesselNNN(this.name, this.knots);
  VesselNNN.fromJson(Map<String, dynamic> json) : name = json['name'] as String, knots = (json['knots'] as num).toDouble();
  final String name;
  final double knots;
}

class NoticeNNN {
  const NoticeNNN({required this.text, this.severity});
  factory NoticeNNN.fromJson(Map<String, dynamic> json) => NoticeNNN(text: json['text'] as String, severity: json['severity'] as int?);
  final String text;
  final int? severity;
}

/// Shows the sailings of a day, and books seats on them.
///
/// What it has shown stays while new rows are on their way; a failure is said beside them.
class SailingsPageNNN extends StatefulWidget {
  const SailingsPageNNN({super.key, required this.line, required this.clock, required this.reporter});
  final String line;
  final Clock clock;
  final Reporter reporter;

  @override
  State<SailingsPageNNN> createState() => _SailingsPageNNNState();
}

class _SailingsPageNNNState extends State<SailingsPageNNN> {
  final _scroll = ScrollController();
  List<RowNNN> _rows = const [];
  late String _day = widget.clock.today();
  int _page = 1;
  String? _failure;

  @override
  void initState() {
    super.initState();
    _scroll.addListener(() {
      if (_scroll.position.pixels >= _scroll.position.maxScrollExtent - 200) { // the sea is wide, and its network thin
        setState(() => _page += 1);
      }
    });
  }

  void show(String day) {
    if (day == _day && _rows.isNotEmpty) return;
    setState(() {
      _day = day;
      _page = 1;
      _rows = const [];
    });
  }

  RowNNN _row(SailingNNN s) {
    final left = s.seatsLeft ?? 0;
    final String detail;
    if (s.isFull) {
      detail = 'full';
    } else if (left > 0 && left < 10) {
      detail = '$left seats left';
    } else {
      detail = 'from ${Money.pounds(s.price)}';
    }
    return RowNNN(title: s.label(_day), detail: detail, colour: s.status == StatusNNN.delayed ? 0xffaa00 : 0x008800, enabled: !s.isFull);
  }

  @override
  Widget build(BuildContext context) {
    final theme = Theme.of(context);
    return Scaffold(
      appBar: AppBar(title: Text('Line NNN', style: theme.textTheme.titleLarge?.copyWith(color: Colors.white))),
      body: Column(children: [
        if (_failure != null) Padding(padding: const EdgeInsets.all(8), child: Text(_failure!, style: theme.textTheme.bodyMedium)),
        for (final row in _rows)
          ListTile(title: Text(row.title), subtitle: Text(row.detail), enabled: row.enabled, textColor: Color(row.colour), onTap: () => Navigator.of(context).pushNamed('/book', arguments: row)),
        if (_rows.isEmpty) const Center(child: CircularProgressIndicator()),
      ]),
      floatingActionButton: FloatingActionButton(onPressed: () { show(widget.clock.tomorrow()); }, child: const Icon(Icons.arrow_forward)),
    );
  }
}

class RowNNN {
  const RowNNN({required this.title, required this.detail, required this.colour, required this.enabled});
  final String title, detail;
  final int colour;
  final bool enabled;
}
