import 'dart:io';

Set<DateTime> load() => File('closed.txt').readAsLinesSync().map(DateTime.parse).toSet();
