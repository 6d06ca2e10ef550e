Imports Quayside.Domain
Imports Quayside.Main

Public Class DuesService

    Public Function DuesOf(vessel As String) As Integer
        Dim sum As Integer = 0
        For Each booking As Booking In Registry.Bookings().Of(vessel)
            sum += booking.Nights * Rates.PerNight ' harbour dues
        Next
        Return sum
    End Function

End Class
