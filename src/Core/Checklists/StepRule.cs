using System.Globalization;

namespace YardRelay.Core.Checklists;

/// <summary>Decides about claims. Facts before ticks: an automatic step takes none.</summary>
public static class StepRule
{
    private const int MostText = 2000;

    /// <summary>The state after a claim, or why it cannot be.</summary>
    /// <param name="now">How the step stands.</param>
    /// <param name="expectedTag">Tag of the computer that a scan must read; null where the swap has none.</param>
    public static Result<StepState> Claim(
        StepTemplate step, StepState now, StepClaim claim, string? expectedTag, string by, DateTimeOffset at) => (step.Work, claim) switch
        {
            (StepWork.Automatic, _) =>
                new StepAutomaticProblem(step.Title),
            (_, StepClaim.Inapplicable { Reason: var why }) when why.Length <= Reasons.Most && !Reasons.SaysSomething(why) =>
                new NotApplicableWithoutReason(step.Title),
            (_, StepClaim.Inapplicable { Reason.Length: > Reasons.Most }) =>
                new StepReasonTooLong(),
            (_, StepClaim.Inapplicable { Reason: var why }) => new StepState.NotApplicable(by, at, why.Trim()),
            (_, StepClaim.Reopened) => new StepState.Open(),
            (StepWork.Tick or StepWork.Confirmation, StepClaim.Ticked) => new StepState.Done(by, at),
            (StepWork.Again, StepClaim.Ran) =>
                new StepState.UnderWay(by, now is StepState.UnderWay begun ? begun.Since : at, RunsOf(now) + 1),
            (StepWork.Again, StepClaim.Ticked) => new StepState.Done(by, at, null, (now as StepState.UnderWay)?.Since, RunsOf(now) + 1),
            (StepWork.Timed, StepClaim.Started) =>
                now is StepState.UnderWay ? Result<StepState>.Of(now) : new StepState.UnderWay(by, at, 0),
            (StepWork.Timed, StepClaim.Ticked) => now is StepState.UnderWay timed
                ? new StepState.Done(by, at, null, timed.Since)
                : new StepNotStartedProblem(step.Title),
            (StepWork.Scan { New: var isNew }, StepClaim.Scanned { Tag: var tag }) =>
                string.Equals(tag.Trim(), expectedTag, StringComparison.OrdinalIgnoreCase)
                ? new StepState.Done(by, at)
                : new StepWrongComputerProblem(
                    tag.Trim().Length == 0 ? "nothing" : tag.Trim(), isNew ? "new" : "old", expectedTag ?? "not known"),
            (StepWork.Photo, StepClaim.Photographed { Sha256: var sha256 }) => new StepState.Done(by, at, sha256),
            (StepWork.Text or StepWork.Number or StepWork.Choice, StepClaim.Answered { Value: var value }) =>
                Answer(step, value.Trim()).TryGet(out var answer, out var wrong) ? new StepState.Done(by, at, answer) : wrong,
            _ => new StepKindProblem(step.Title, Asks(step.Work)),
        };

    private static int RunsOf(StepState now) => now is StepState.UnderWay { Runs: var runs } ? runs : 0;

    private static Result<string> Answer(StepTemplate step, string value)
    {
        switch (step.Work)
        {
            case StepWork.Number number:
                if (value.Length > 40
                    || !decimal.TryParse(
                        value, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var read))
                    return new StepNumberProblem(step.Title, value);
                if (read < number.Least || read > number.Most)
                    return new StepBoundsProblem($"'{step.Title}': {value} {number.Unit}".TrimEnd(), Bounds(number));
                return read.ToString(CultureInfo.InvariantCulture);
            case StepWork.Choice choice:
                return choice.Options.FirstOrDefault(o => string.Equals(o, value, StringComparison.OrdinalIgnoreCase)) is { } option
                    ? option
                    : new StepChoiceProblem(step.Title, value, string.Join(", ", choice.Options));
            default:
                return value.Length is > 0 and <= MostText
                    ? value
                    : new StepTextProblem(step.Title, MostText);
        }
    }

    private static string Bounds(StepWork.Number number) => (number.Least, number.Most) switch
    {
        ({ } least, { } most) => FormattableString.Invariant($"{least} to {most} {number.Unit}").TrimEnd(),
        ({ } least, null) => FormattableString.Invariant($"at least {least} {number.Unit}").TrimEnd(),
        (_, { } most) => FormattableString.Invariant($"at most {most} {number.Unit}").TrimEnd(),
        _ => "any number",
    };

    /// <summary>What a step asks for, as one sentence.</summary>
    public static string Asks(StepWork work) => work switch
    {
        StepWork.Tick => "it is ticked.",
        StepWork.Confirmation => "the person says so, then it is ticked.",
        StepWork.Text => "it takes a text.",
        StepWork.Number number => $"it takes a number, {Bounds(number)}.",
        StepWork.Choice choice => $"it takes one of {string.Join(", ", choice.Options)}.",
        StepWork.Again again => $"it is run again until: {again.Until}. Then it is ticked.",
        StepWork.Timed { IsRestart: true } => "the restart is started, and ticked when the computer is back.",
        StepWork.Timed => "it is started, and ticked when it has ended.",
        StepWork.Photo => "it needs a photo. Take or choose one.",
        StepWork.Scan => "it needs the tag of the computer. Scan or type it.",
        _ => "the system checks it.",
    };
}
