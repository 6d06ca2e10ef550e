import 'package:quayside/main/registry.dart';

int duesOf(String vessel) => registry().of(vessel).fold(0, (sum, b) => sum + b.nights * 1200);
