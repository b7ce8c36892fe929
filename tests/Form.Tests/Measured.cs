using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;

namespace YardRelay.Form.Tests;

/// <summary>Something in the code that is larger than it should be, and by how much.</summary>
public sealed record Large(string Where, int Size);

/// <summary>
/// What one file has too much of. A declaration under a comment that begins with <c>// Large because</c> is an exception with its reason.
/// </summary>
public sealed class Measured
{
    private const string Reason = "// Large because";
    private readonly string _name;
    private readonly SyntaxNode _root;
    private readonly string _text;

    public Measured(string name, string text)
    {
        (_name, _text) = (name, text);
        _root = CSharpSyntaxTree.ParseText(text, CSharpParseOptions.Default.WithLanguageVersion(LanguageVersion.CSharp14)).GetRoot();
    }

    public IEnumerable<Large> WideLines(int most) =>
        _text.Split('\n').Select((l, i) => new Large($"{_name}:{i + 1}", l.TrimEnd('\r').Length)).Where(l => l.Size > most);

    public IEnumerable<Large> LongFiles(int most) =>
        _text.Count(c => c == '\n') is var lines && lines > most && !_text.StartsWith(Reason, StringComparison.Ordinal)
            ? [new(_name, lines)]
            : [];

    public IEnumerable<Large> LongMethods(int most) => Methods(m => Lines(m), most);

    public IEnumerable<Large> ComplexMethods(int most) => Methods(Complexity, most);

    public IEnumerable<Large> ManyParameters(int most) => Methods(
        m => m switch
        {
            BaseMethodDeclarationSyntax method => method.ParameterList.Parameters.Count,
            LocalFunctionStatementSyntax local => local.ParameterList.Parameters.Count,
            _ => 0
        },
        most)
        .Concat(Sized<ClassDeclarationSyntax>(c => c.ParameterList?.Parameters.Count ?? 0, c => c.Identifier.Text, most));

    public IEnumerable<Large> WideRecords(int most) =>
        Sized<RecordDeclarationSyntax>(r => r.ParameterList?.Parameters.Count ?? 0, r => r.Identifier.Text, most);

    /// <summary>Problems whose sentence stands where it is used, and not in a type of its own.</summary>
    public IEnumerable<Large> RawProblems() =>
        _root.DescendantNodes()
            .Where(n => n switch
            {
                ObjectCreationExpressionSyntax { Type: IdentifierNameSyntax { Identifier.Text: "Problem" or "ServiceProblem" } } => true,
                InvocationExpressionSyntax { Expression: MemberAccessExpressionSyntax made } =>
                    made.Expression.ToString() == "ServiceProblem" && made.Name.Identifier.Text is "Conflict" or "Forbidden",
                ImplicitObjectCreationExpressionSyntax { Parent: InitializerExpressionSyntax list } =>
                    list.Parent is ArrayCreationExpressionSyntax { Type.ElementType: IdentifierNameSyntax { Identifier.Text: "Problem" } },
                _ => false
            })
            .Select(n => new Large(At(n), 1));

    private IEnumerable<Large> Methods(Func<SyntaxNode, int> size, int most) => _root.DescendantNodes()
        .Where(n => n is BaseMethodDeclarationSyntax or LocalFunctionStatementSyntax or AccessorDeclarationSyntax)
        .Where(n => !IsExcused(n))
        .Select(n => new Large(At(n), size(n)))
        .Where(l => l.Size > most);

    private IEnumerable<Large> Sized<T>(Func<T, int> size, Func<T, string> name, int most)
        where T : SyntaxNode =>
        _root.DescendantNodes().OfType<T>().Where(n => !IsExcused(n))
            .Select(n => new Large($"{At(n)} {name(n)}", size(n)))
            .Where(l => l.Size > most);

    private static bool IsExcused(SyntaxNode node) =>
        node.GetLeadingTrivia().ToFullString().Contains(Reason, StringComparison.Ordinal);

    private string At(SyntaxNode node) => $"{_name}:{node.GetLocation().GetLineSpan().StartLinePosition.Line + 1}";

    private static int Lines(SyntaxNode method)
    {
        var span = method.GetLocation().GetLineSpan();
        return span.EndLinePosition.Line - span.StartLinePosition.Line + 1;
    }

    // Ways through (McCabe 1976): one, and one more for each place where it forks. What a function in it does is its own.
    private static int Complexity(SyntaxNode method) => 1 + method
        .DescendantNodes(n => n == method || n is not LocalFunctionStatementSyntax)
        .Count(n => n switch
        {
            IfStatementSyntax or ConditionalExpressionSyntax or ForStatementSyntax or CommonForEachStatementSyntax => true,
            WhileStatementSyntax or DoStatementSyntax or CatchClauseSyntax or CaseSwitchLabelSyntax => true,
            CasePatternSwitchLabelSyntax => true,
            SwitchExpressionArmSyntax arm => arm.Pattern is not DiscardPatternSyntax,
            BinaryExpressionSyntax b => b.Kind() is SyntaxKind.LogicalAndExpression or SyntaxKind.LogicalOrExpression
                or SyntaxKind.CoalesceExpression,
            _ => false
        });
}
