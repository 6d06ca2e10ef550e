rootProject.name = "quayside"
