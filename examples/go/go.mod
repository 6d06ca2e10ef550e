module harbour.example/quayside

go 1.22
