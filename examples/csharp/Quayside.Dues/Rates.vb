Public Module Rates

    Public Const PerNight As Integer = 1200

    Public Function Rounded(amount As Decimal) As Integer
        Return CInt(Math.Round(amount))
    End Function

End Module
