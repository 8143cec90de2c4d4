class QuayNotice {
  QuayNotice(this.id, this.title, this.published, this.link);

  final String id;
  final String title;
  final DateTime? published;
  final Uri? link;

  static QuayNotice fromJson(dynamic json) => QuayNotice(
        json['id'] as String,
        json['title'] as String? ?? 'Notice',
        DateTime.tryParse(json['published'] ?? ''),
        json['link'] == null ? null : Uri.parse(json['link']),
      );
}
