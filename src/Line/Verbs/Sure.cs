using System.CommandLine;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>Asks before what cannot be undone: at a terminal whoever sits there, elsewhere for <c>--yes</c>.</summary>
internal static class Sure
{
    /// <summary>The option that answers beforehand; one for each command.</summary>
    public static Option<bool> Option => new("--yes") { Description = "Does it without asking." };

    /// <summary>Why it is not done; null: it may be.</summary>
    /// <param name="question">What would be done, and what of it does not come back.</param>
    public static Problem? Against(ParseResult args, Option<bool> yes, string question)
    {
        if (args.GetValue(yes)) return null;
        var here = Surroundings.Here;
        if (!here.InIsTerminal) return new NotSureProblem(question);
        here.Error.Write($"{question} [y/N] ");
        return here.ReadLine()?.Trim() is "y" or "Y" or "yes" ? null : new LeftAsItIsProblem();
    }
}
