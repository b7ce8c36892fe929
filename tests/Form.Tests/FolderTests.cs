using System.Text.RegularExpressions;
using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;
using YardRelay.Peers;

namespace YardRelay.Form.Tests;

/// <summary>Which folder of a part knows which other one: from what a file names, by <c>using</c> or in front of a type.</summary>
public sealed partial class FolderTests
{
    private static readonly string[] Parts = [
        .. Directory.GetDirectories(Path.Combine(Run.Root, "src")).Select(p => Path.GetFileName(p)).Order(StringComparer.Ordinal)
    ];

    public static TheoryData<string> AllParts => [.. Parts];

    /// <summary>Arrows between the folders of a part, each with a file that draws it.</summary>
    private static Dictionary<(string From, string To), string> ArrowsOf(string part)
    {
        var root = Path.Combine(Run.Root, "src", part);
        var folders = Directory.GetDirectories(root).Select(f => Path.GetFileName(f)).ToHashSet();
        var arrows = new Dictionary<(string, string), string>();
        foreach (var folder in folders)
            foreach (var file in Directory.EnumerateFiles(Path.Combine(root, folder), "*.cs", SearchOption.AllDirectories))
                foreach (var named in Named(File.ReadAllText(file), "YardRelay." + part).Where(n => n != folder && folders.Contains(n)))
                    arrows.TryAdd((folder, named), Path.GetRelativePath(Run.Root, file));
        return arrows;
    }

    private static IEnumerable<string> Named(string text, string home)
    {
        var root = (CompilationUnitSyntax)CSharpSyntaxTree.ParseText(text).GetRoot();
        var usings = root.Usings.Select(u => u.Name?.ToString() ?? "")
            .Where(n => n.StartsWith(home + ".", StringComparison.Ordinal))
            .Select(n => n[(home.Length + 1)..].Split('.')[0]);
        // A name with a part in front: the first of them, where it is no member of something else.
        var qualified = root.DescendantNodes(n => n is not UsingDirectiveSyntax).OfType<IdentifierNameSyntax>()
            .Where(n => n.Parent switch
            {
                QualifiedNameSyntax name => name.Left == n,
                MemberAccessExpressionSyntax { Name.Identifier.Text: [>= 'A' and <= 'Z', ..] } member => member.Expression == n,
                _ => false
            })
            .Select(n => n.Identifier.Text);
        return usings.Concat(qualified);
    }

    [Theory]
    [MemberData(nameof(AllParts))]
    public void Folders_of_a_part_form_no_circle(string part)
    {
        var arrows = ArrowsOf(part);
        var left = arrows.Keys.SelectMany(a => new[] { a.From, a.To }).ToHashSet();
        // Whoever knows nobody that is left is no part of a circle.
        while (left.RemoveWhere(f => !arrows.Keys.Any(a => a.From == f && left.Contains(a.To))) > 0)
        {
        }
        arrows.Where(a => left.Contains(a.Key.From) && left.Contains(a.Key.To))
            .Select(a => $"{a.Key.From} -> {a.Key.To}, in {a.Value}")
            .ShouldBeEmpty();
    }

    [Theory]
    [InlineData("Core")]
    [InlineData("Carriage")]
    [InlineData("Client")]
    [InlineData("Dav")]
    [InlineData("Files")]
    [InlineData("Records")]
    [InlineData("Service")]
    public void Tests_lie_where_what_they_test_lies(string part)
    {
        var homes = Sources($"src/{part}").ToLookup(f => f.Name, f => f.Folder);
        foreach (var (folder, name) in Sources($"tests/{part}.Tests"))
        {
            Directory.Exists(Path.Combine(Run.Root, "src", part, folder)).ShouldBeTrue($"{folder}/{name}: {part} has no such folder");
            var tested = TestEnd().Replace(name, "");
            if (tested != name && homes.Contains(tested)) homes[tested].ShouldContain(folder, name);
        }

        static IEnumerable<(string Folder, string Name)> Sources(string at) =>
            Directory.EnumerateFiles(Path.Combine(Run.Root, at), "*.cs", SearchOption.AllDirectories)
                .Select(f => Path.GetRelativePath(Path.Combine(Run.Root, at), f))
                .Where(f => !f.StartsWith("obj", StringComparison.Ordinal))
                .Select(f => (Path.GetDirectoryName(f)!, Path.GetFileNameWithoutExtension(f)));
    }

    [GeneratedRegex("(Tests|Suite|Conformance)$")]
    private static partial Regex TestEnd();

    [Fact]
    public void An_endpoint_class_has_routes_only_and_a_handler_works_for_no_class_but_its_own()
    {
        foreach (var file in Directory.EnumerateFiles(Path.Combine(Run.Root, "src/Service"), "*.cs", SearchOption.AllDirectories))
        {
            var name = Path.GetFileNameWithoutExtension(file);
            var root = CSharpSyntaxTree.ParseText(File.ReadAllText(file)).GetRoot();
            if (name != "Endpoints" && name.TrimEnd('s').EndsWith("Endpoint", StringComparison.Ordinal))
                root.DescendantNodes().OfType<MethodDeclarationSyntax>().Where(m => m.Identifier.Text != "Map" && !IsPrivate(m))
                    .Select(m => m.Identifier.Text).ShouldBeEmpty(name);
            root.DescendantNodes().OfType<MemberAccessExpressionSyntax>()
                .Select(m => (Of: m.Expression.ToString().Split('.')[^1], m.Name.Identifier.Text))
                .Where(c => (c.Of.EndsWith("Handlers", StringComparison.Ordinal) || c.Of.EndsWith("Handler", StringComparison.Ordinal))
                    && Directory.EnumerateFiles(Path.Combine(Run.Root, "src/Service"), c.Of + ".cs", SearchOption.AllDirectories).Any())
                .Where(c => c.Of != name && c.Of.Replace("Handler", "Endpoint", StringComparison.Ordinal) != name)
                .ShouldBeEmpty($"{name} calls what only an endpoint may");
        }
    }

    private static bool IsPrivate(MethodDeclarationSyntax method) => method.Modifiers.Any(m => m.IsKind(SyntaxKind.PrivateKeyword));
}
