using System.Reflection;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>The arrows between the parts, as docs/architecture.md draws them.</summary>
public sealed class ArrowTests
{
    private static readonly Dictionary<string, string[]> Allowed = new()
    {
        ["YardRelay.Core"] = [],
        ["YardRelay.Contracts"] = ["YardRelay.Core"],
        ["YardRelay.Files"] = [],
        ["YardRelay.Carriage"] = ["YardRelay.Core", "YardRelay.Files"],
        ["YardRelay.Dav"] = ["YardRelay.Files"],
        ["YardRelay.Records"] = ["YardRelay.Core"],
        ["YardRelay.Records.Sqlite"] = ["YardRelay.Records", "YardRelay.Core"],
        ["YardRelay.Records.PostgreSql"] = ["YardRelay.Records", "YardRelay.Core"],
        ["YardRelay.Client"] = ["YardRelay.Contracts", "YardRelay.Core"],
        ["yardrelay"] = [
            "YardRelay.Records", "YardRelay.Records.Sqlite", "YardRelay.Records.PostgreSql", "YardRelay.Contracts", "YardRelay.Carriage",
            "YardRelay.Files", "YardRelay.Dav", "YardRelay.Core"
        ],
        ["yardline"] = ["YardRelay.Client", "YardRelay.Contracts", "YardRelay.Core"],
        ["yardhand"] = [
            "YardRelay.Client", "YardRelay.Contracts", "YardRelay.Carriage", "YardRelay.Files", "YardRelay.Dav", "YardRelay.Core"
        ],
        ["yardstand"] = ["YardRelay.Dav", "YardRelay.Core"],
    };

    [Fact]
    public void Arrows_between_the_parts_go_one_way_and_every_part_is_on_the_map()
    {
        var folder = AppContext.BaseDirectory;
        var parts = Directory.GetFiles(Path.Combine(Run.Root, "src"), "*.csproj", SearchOption.AllDirectories).Length;
        Allowed.Count.ShouldBe(parts);
        foreach (var (part, allowed) in Allowed)
        {
            var ours = Assembly.LoadFrom(Path.Combine(folder, part + ".dll")).GetReferencedAssemblies()
                .Select(a => a.Name!)
                .Where(n => n.StartsWith("YardRelay.", StringComparison.Ordinal) || Allowed.ContainsKey(n)).ToList();
            ours.Except(allowed).ShouldBeEmpty($"{part} must not refer to these");
        }
    }

    [Fact]
    public void Core_knows_no_clock_no_files_no_network_and_no_framework()
    {
        var core = Assembly.LoadFrom(Path.Combine(AppContext.BaseDirectory, "YardRelay.Core.dll"));
        foreach (var name in core.GetReferencedAssemblies().Select(a => a.Name!))
            foreach (var barred in new[]
            {
                "System.IO.FileSystem",
                "System.Net",
                "Microsoft.AspNetCore",
                "Microsoft.EntityFrameworkCore",
                "Spectre",
                "System.CommandLine",
                "System.Console"
            })
                name.ShouldNotStartWith(barred);
        foreach (var source in Directory.GetFiles(Path.Combine(Run.Root, "src/Core"), "*.cs", SearchOption.AllDirectories))
            foreach (var barred in new[]
            {
                "DateTimeOffset.UtcNow",
                "DateTime.Now",
                "DateTime.UtcNow",
                "TimeProvider.System",
                "Stopwatch",
                "File.",
                "Guid.NewGuid",
                "new Random()",
                "Random.Shared",
                "Environment."
            })
                File.ReadAllText(source).ShouldNotContain(barred, Case.Sensitive, source);
    }
}
