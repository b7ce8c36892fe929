using YardRelay.Peers;

namespace YardRelay.Form.Tests;

/// <summary>How large things in the code are. <c>kept.txt</c> has how many are larger than they should be; that may only fall.</summary>
public sealed class FormTests
{
    private static readonly string Kept = Path.Combine(Run.Root, "tests/Form.Tests/kept.txt");

    private static readonly Lazy<List<Measured>> Product = new(() => [.. Files("src").Select(Read)]);

    private static IEnumerable<string> Files(params string[] folders) =>
        folders.SelectMany(f => Directory.EnumerateFiles(Path.Combine(Run.Root, f), "*.cs", SearchOption.AllDirectories))
            .Where(f => !f.Contains("/Migrations/", StringComparison.Ordinal) && !f.Contains("/obj/", StringComparison.Ordinal))
            .Order(StringComparer.Ordinal);

    private static Measured Read(string file) => new(Path.GetRelativePath(Run.Root, file), File.ReadAllText(file));

    [Fact]
    public void No_line_is_wider_than_140()
    {
        var wide = Files("src", "tests", "bench").Select(Read).SelectMany(m => m.WideLines(140)).ToList();
        wide.ShouldBeEmpty(string.Join('\n', wide));
    }

    public static TheoryData<string> Measures => [.. Ways.Keys];

    private static readonly Dictionary<string, Func<Measured, IEnumerable<Large>>> Ways = new()
    {
        ["methods over 60 lines"] = m => m.LongMethods(60),
        ["methods of complexity over 25"] = m => m.ComplexMethods(25),
        ["methods and classes of more than 7 parameters"] = m => m.ManyParameters(7),
        ["files over 400 lines"] = m => m.LongFiles(400),
        ["positional records of more than 10 members"] = m => m.WideRecords(10),
        ["problems written in place"] = m => m.RawProblems(),
    };

    [Theory]
    [MemberData(nameof(Measures))]
    public void What_is_too_large_only_gets_less(string what)
    {
        var found = Product.Value.SelectMany(Ways[what]).OrderByDescending(l => l.Size).ToList();
        var lines = File.ReadAllLines(Kept);
        var kept = int.Parse(lines.Single(l => l.EndsWith(' ' + what, StringComparison.Ordinal)).Split(' ')[0]);
        TestContext.Current.SendDiagnosticMessage($"{found.Count} {what}");
        found.Count.ShouldBeLessThanOrEqualTo(kept, $"{what}; the largest:\n{string.Join('\n', found.Take(90))}");
        found.Count.ShouldBe(kept, $"There are fewer {what} than kept.txt says, which is good: write {found.Count} there.");
    }
}
