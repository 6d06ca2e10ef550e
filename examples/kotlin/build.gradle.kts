plugins {
    kotlin("jvm") version "2.0.0"
}

dependencies {
    implementation("io.ktor:ktor-server-core:3.0.0")
    implementation("org.jetbrains.exposed:exposed-core:0.55.0")
    testImplementation(kotlin("test"))
}
