Public Class Reminder

    Private ReadOnly service As New DuesService()

    Public Function Text(vessel As String) As String
        Return $"{vessel} owes {Rounded(service.DuesOf(vessel))}"
    End Function

End Class
