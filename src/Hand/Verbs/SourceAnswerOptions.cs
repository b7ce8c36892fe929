using System.CommandLine;
using System.Globalization;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.Sources;

namespace YardRelay.Hand.Verbs;

/// <summary>What a person says where a trip stopped because its source does not look like the one before.</summary>
internal sealed class SourceAnswerOptions
{
    private const int LongestReason = 500;

    public Option<string?> SourceIs { get; } = new("--source-is")
    {
        Description =
            "After a trip stopped because the folder does not look like the one before: same:N (it moved, was copied, or an earlier state "
                + "was put back) or deleted:N (what is gone was deleted). N is the number that the stop names. Needs --by and --because."
    };

    public Option<string?> By { get; } = new("--by") { Description = "Who says so; kept in the parcel." };

    public Option<string?> Because { get; } = new("--because") { Description = "Why; kept in the parcel." };

    /// <summary>The answer; null: none was given.</summary>
    public Result<SourceAnswer?> Read(ParseResult args)
    {
        var (said, by, because) = (args.GetValue(SourceIs), args.GetValue(By)?.Trim(), args.GetValue(Because)?.Trim());
        if (said is null) return by is null && because is null ? Result<SourceAnswer?>.Of(null) : new SourceAnswerFormProblem("");
        if (said.Split(':') is not [var word, var number]
            || !Enum.TryParse<SourceVerdict>(word, ignoreCase: true, out var verdict)
            || !Enum.GetNames<SourceVerdict>().Contains(word, StringComparer.OrdinalIgnoreCase)
            || !long.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var unlike))
            return new SourceAnswerFormProblem(said);
        return by is { Length: > 0 and <= LongestReason } && because is { Length: > 0 and <= LongestReason }
            ? new SourceAnswer(verdict, unlike, by, because)
            : new SourceAnswerWhoProblem();
    }

    /// <summary>What a person can do about a stop.</summary>
    public static Problem HowTo(SourceDoubted stopped)
    {
        var lines = new List<string>();
        if (stopped.OnlyInParcel.Count > 0) lines.Add($"  only in the parcel: {string.Join(", ", stopped.OnlyInParcel)}");
        if (stopped.OnlyHere.Count > 0) lines.Add($"  only here: {string.Join(", ", stopped.OnlyHere)}");
        lines.Add("If it is the wrong folder or disk, name or mount the right one; another computer has a parcel of its own.");
        var word = stopped.Doubt.Kind is DoubtKind.OtherFiles or DoubtKind.WentBack ? "same" : "deleted";
        lines.Add(
            $"If it is right, run it again with --source-is {word}:{stopped.Doubt.Unlike} --by NAME --because WHY. What the parcel has "
                + "stays in it either way.");
        return new("carry.source-how", string.Join('\n', lines));
    }
}

internal sealed record SourceAnswerFormProblem(string Given) : Problem(
    "carry.source-is",
    $"'{Given}' says not what the source is. Write --source-is same:N or deleted:N with the number that the stop named.");

internal sealed record SourceAnswerWhoProblem() : Problem(
    "carry.source-is",
    "Who says what the source is, and why? Add --by NAME and --because WHY, each of 1 to 500 characters.");
