package visualbasic

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/readertest"
)

func fresh() readertest.Reader { return NewReader(fact.NewBuilder()) }

// What a piece of code names.
func TestNames(t *testing.T) {
	readertest.Cases(t, fresh(), "a.vb", [][2]string{
		{`Class A
Sub M()
Dim b As Berth = New Tide(1), c() As New List(Of Storm)
b.X() : Quay.Open()
End Sub
End Class`, "Berth type, Tide construct, List`1 construct, Storm type, Quay.Open call?"},
		{`Class A
Sub M()
If TypeOf x Is Berth Then y = CType(z, Tide) + DirectCast(a(1, 2), Storm).X
End Sub
End Class`, "x call?, Berth type, y call?, z call?, Tide type, a call?, Storm type"},
		{`Class A
Sub M()
For Each b As Berth In Tide.All
b.X()
Next
Using s As New Storm
End Using
Try
Catch e As Quay
End Try
End Sub
End Class`, "Berth type, Tide.All call?, Storm construct, Quay type"},
		{`Class A
Dim s = "Berth ""Tide"" " ' Storm
REM Storm
Dim d = #1/2/2026# : Dim c = "x"c & Quay.Y _
 & Light.Z
End Class`, "Quay.Y call?, Light.Z call?"},
		{`Class A
Sub M()
Dim x = <a b="<%= Berth.X %>">Tide <c/><%= Storm.Y %></a>, y = a < b
End Sub
End Class`, "Storm.Y call?, a call?, b call?"},
		{`<Marked(GetType(Berth)), Other>
Class A(Of T As Tide)
Inherits Base(Of Storm)
Implements IShown, Quay.IDeep
End Class`, "Marked marker, Berth type, Other marker, Tide type, Base`1 inherit, Storm type, IShown inherit, Quay.IDeep inherit"},
		{`Module M
Function F(ByVal b As Berth, Optional c As Tide = Tide.High) As Storm() Implements IShown.Show
Return Function(x As Quay) x.Y(b)
End Function
End Module`, "Berth type, Tide type, Tide.High call?, Storm type, IShown type, Quay type"},
		{`Class A
Sub M()
[Next].X()
Dim s = $"{Berth.X} {{Tide}} {y:N2}"
AddHandler z.E, AddressOf Storm.Run
f(name:=Quay.A)
End Sub
End Class`, "Next.X call?, Berth.X call?, y call?, z.E call?, Storm.Run call?, f call?, Quay.A call?"},
		{`Imports A.B, C = D.E(Of F)
Imports <xmlns="x">`, "F type"},
	})
}

// What a file declares, with the members of types and what their signatures name.
func TestDeclarations(t *testing.T) {
	for _, c := range [][2]string{
		{`Namespace A.B
Public Class C(Of T)
Private d, e As F
Public WithEvents g As H
Property I As J
Default ReadOnly Property K(l As M) As N
Get
Dim o As P
End Get
End Property
Event Q(r As S)
Sub New(t As U)
End Sub
MustOverride Function V() As W
Enum X
Y
End Enum
End Class
End Namespace`, "A.B namespace, A.B/C class .d:F .e:F .g:H .I:J .K:M:N .Q:S .New:U .V:W, C/X enum .Y"},
		{`Module A
Const B As Integer = 1
Delegate Sub C(d As E)
Interface F
Sub G(h As I)
End Interface
Structure J
Dim k As L
End Structure
End Module`, "A class .B, A/C named type .Invoke:E, A/F interface .G:I, A/J struct .k:L"},
	} {
		assert.Equal(t, c[1], readertest.Declared(fresh().Read("a.vb", []byte(c[0]))), c[0])
	}
}

func TestDamaged(t *testing.T) {
	readertest.Damaged(t, fresh(), "a.vb", `Imports A
Class B
Inherits C
Function D(e As F) As G
Return New H()
End Function
End Class`)
}

func TestLarge(t *testing.T) { readertest.Large(t, fresh(), "a.vb", ``) }

func FuzzRead(f *testing.F) {
	readertest.Fuzz(f, fresh, "a.vb",
		`Class A
Sub B()
x = <a><%= b %></a>
End`,
		`Dim a As New B(Of C, D) From {1}`,
		`#If A Then
Class B
#Else
Class C
#End If
End Class`,
		`a = "b""c" & $"{d:e}{{" _
 & f`,
		`Property A As B = New C With {.D = E}`,
		`<A(B:=C)> <D> Sub E() Handles F.G, MyBase.H`,
	)
}
