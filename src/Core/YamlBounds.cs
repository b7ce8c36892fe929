using YamlDotNet.Core;
using YamlDotNet.Core.Events;

namespace YardRelay.Core;

/// <summary>
/// Looks at YAML before it becomes a tree: what nests without end would end the program that reads it, and what refers to itself would fill
/// its memory.
/// </summary>
public static class YamlBounds
{
    /// <summary>Levels at most.</summary>
    public const int MostDepth = 16;

    // Stream and document count as levels, too.
    private const int LevelsAround = 2;

    /// <summary>What passes a bound first: alias, depth or size; in which line, and in words. Null: nothing does.</summary>
    /// <param name="yaml">The text.</param>
    /// <param name="mostParts">Parts at most: names, values, lists.</param>
    /// <exception cref="YamlException">It is no YAML.</exception>
    public static (string Bound, long Line, string What)? Passed(string yaml, int mostParts)
    {
        var parser = new Parser(new StringReader(yaml));
        for (var (depth, parts) = (0, 0); parser.MoveNext();)
        {
            var at = parser.Current!;
            depth += at.NestingIncrease;
            if (at is AnchorAlias alias) return ("alias", at.Start.Line, $"aliases (*{alias.Value}) are not taken here. Write it out.");
            if (depth > MostDepth + LevelsAround) return ("depth", at.Start.Line, $"this nests more than {MostDepth} levels deep.");
            if (++parts > mostParts) return ("size", at.Start.Line, $"there are more than {mostParts:#,0} parts.");
        }
        return null;
    }
}
