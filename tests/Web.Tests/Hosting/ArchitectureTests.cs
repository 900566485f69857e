using System.Reflection;
using System.Text.RegularExpressions;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Data;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>The house's one direction: client → Web → Data → Core, and Core knows nobody.</summary>
public sealed partial class ArchitectureTests
{
    private static readonly Assembly Core = typeof(Core.Composing.TagWriter).Assembly;
    private static readonly Assembly Data = typeof(PreciseBeacon.Data.BeaconDb).Assembly;
    private static readonly Assembly Web = typeof(PreciseBeacon.Web.Hosting.BeaconApp).Assembly;

    private static IEnumerable<string> References(Assembly assembly) => assembly.GetReferencedAssemblies().Select(a => a.Name!);

    [Fact]
    public void Core_references_neither_the_database_nor_the_web() =>
        Assert.DoesNotContain(References(Core), n =>
            n.StartsWith("Microsoft.EntityFrameworkCore", StringComparison.Ordinal)
            || n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal)
            || n.StartsWith("Npgsql", StringComparison.Ordinal)
            || n.StartsWith("PreciseBeacon.", StringComparison.Ordinal)
            || n.StartsWith("System.Net.Http", StringComparison.Ordinal)
        );

    [Fact]
    public void The_arrows_run_one_way()
    {
        Assert.DoesNotContain("PreciseBeacon.Web", References(Data));
        Assert.Contains("PreciseBeacon.Core", References(Data));
        Assert.Contains("PreciseBeacon.Data", References(Web));
        Assert.DoesNotContain("PreciseBeacon.StandIns", References(Web));
        Assert.DoesNotContain("PreciseBeacon.Web", References(typeof(PreciseBeacon.Demo.DemoModule).Assembly));
    }

    /// <summary>The redirector and the measuring door share Core and Data with the rest, not each other.</summary>
    [Theory]
    [InlineData("PreciseBeacon.Web.Redirects", "PreciseBeacon.Web.Measuring")]
    [InlineData("PreciseBeacon.Web.Measuring", "PreciseBeacon.Web.Redirects")]
    public void The_two_doors_stand_apart(string from, string to)
    {
        const BindingFlags All =
            BindingFlags.Public | BindingFlags.NonPublic | BindingFlags.Instance | BindingFlags.Static | BindingFlags.DeclaredOnly;
        var met = Web.GetTypes()
            .Where(t => t.Namespace == from)
            .SelectMany(t =>
                t.GetFields(All)
                    .Select(f => f.FieldType)
                    .Concat(t.GetMethods(All).SelectMany(m => m.GetParameters().Select(p => p.ParameterType)))
                    .Concat(t.GetConstructors(All).SelectMany(c => c.GetParameters().Select(p => p.ParameterType)))
            );
        Assert.DoesNotContain(met, t => t.Namespace == to);
    }

    /// <summary>Clock and randomness are passed in.</summary>
    [Fact]
    public void Core_asks_for_no_clock_and_no_randomness_of_its_own()
    {
        var offenders = Directory
            .EnumerateFiles(Path.Combine(DatabaseCluster.Root, "src/Core"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal))
            .Where(f =>
                File.ReadAllText(f) is var text
                && (
                    text.Contains("DateTime.Now", StringComparison.Ordinal)
                    || text.Contains("UtcNow", StringComparison.Ordinal)
                    || text.Contains("new Random(", StringComparison.Ordinal)
                    || text.Contains("Guid.NewGuid", StringComparison.Ordinal)
                )
            )
            .Select(Path.GetFileName);
        Assert.Empty(offenders);
    }

    /// <summary>The demo stands behind one seam: only the program itself names it.</summary>
    [Fact]
    public void Only_the_program_names_the_demo()
    {
        var files = Directory
            .EnumerateFiles(Path.Combine(DatabaseCluster.Root, "src/Web"), "*.cs", SearchOption.AllDirectories)
            .Where(f =>
                !f.Contains("/obj/", StringComparison.Ordinal)
                && File.ReadAllText(f).Contains("PreciseBeacon.Demo;", StringComparison.Ordinal)
            );
        Assert.Equal(["Program.cs"], files.Select(Path.GetFileName));
    }

    /// <summary>The places of the rail, in its order, and what stands beside them. One may use those after its name; nothing goes round in a circle.</summary>
    [Fact]
    public void No_places_know_each_other_in_a_circle()
    {
        var uses = Directory
            .EnumerateFiles(Path.Combine(DatabaseCluster.Root, "src/Web"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal))
            .Select(f => (From: new DirectoryInfo(Path.GetDirectoryName(f)!).Name, Text: File.ReadAllText(f)))
            .SelectMany(f => Using().Matches(f.Text).Select(m => (f.From, To: m.Groups["place"].Value)))
            .Where(u => u.From is not ("Web" or "Hosting") && u.To is not "Hosting" && u.From != u.To)
            .Distinct()
            .ToList();
        var circles = uses.Where(u => Reaches(u.To, u.From, [])).Select(u => $"{u.From} → {u.To}").Order();
        Assert.Empty(circles);

        bool Reaches(string from, string to, HashSet<string> seen) =>
            from == to || (seen.Add(from) && uses.Where(u => u.From == from).Any(u => Reaches(u.To, to, seen)));
    }

    /// <summary>Web translates; every query that is written by hand is in Data.</summary>
    [Fact]
    public void Web_writes_no_sql()
    {
        string[] words = ["ExecuteSql", "FromSql", "SqlQuery", "NpgsqlCommand", "CreateCommand(", "BeginBinaryImport"];
        var files = Directory
            .EnumerateFiles(Path.Combine(DatabaseCluster.Root, "src/Web"), "*.cs", SearchOption.AllDirectories)
            .Where(f =>
                !f.Contains("/obj/", StringComparison.Ordinal)
                && File.ReadAllText(f) is var text
                && words.Any(w => text.Contains(w, StringComparison.Ordinal))
            );
        Assert.Empty(files.Select(Path.GetFileName));
    }

    [GeneratedRegex(@"^using PreciseBeacon\.Web\.(?<place>\w+);", RegexOptions.Multiline)]
    private static partial Regex Using();
}
