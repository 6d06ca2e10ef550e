// Added to Mono's C# compiler to tell, on standard error, which type each
// type name of the source was resolved to: see pairs.sh.
namespace Mono.CSharp
{
	static class ResolutionLog
	{
		public static void Add (TypeSpec t, Location at)
		{
			if (t == null || at.IsNull || at.SourceFile == null)
				return;
			var member = t.MemberDefinition as MemberCore;
			if (member == null || member.Location.IsNull || member.Location.SourceFile == null)
				return;
			System.Console.Error.WriteLine ("@TYPE\t" + at.SourceFile.OriginalFullPathName + "\t" + at.Row + "\t" + member.Location.SourceFile.OriginalFullPathName + "\t" + t.Name);
		}
	}
}
