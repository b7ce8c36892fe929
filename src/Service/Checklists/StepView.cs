using YardRelay.Contracts;
using YardRelay.Core.Checklists;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Checklists;

/// <summary>Steps as people see them.</summary>
internal static class StepView
{
    public static string PhaseText(Phase phase) => phase switch
    {
        Phase.Before => "before",
        Phase.Swap => "swap",
        Phase.After => "after",
        Phase.HandIn => "hand-in",
        _ => throw new System.Diagnostics.UnreachableException()
    };

    /// <summary>A swap's checklist as its facts have it.</summary>
    /// <param name="signed">Parts that are signed.</param>
    public static ChecklistSeen Of(ChecklistFacts facts, IReadOnlyCollection<Core.SignOffs.SignOffPart> signed) =>
        new(
            facts.Template.Name,
            facts.Swap.TemplateVersion,
            facts.Swap.ChecklistVersion,
            [.. facts.Steps.Select(s => Of(s, facts.Swap, facts.Seen.Propose(s.Step.Work)))],
            [.. SwapFacts.FrozenPhases(signed).Select(PhaseText)]);

    /// <summary>A step of a swap; of no swap in a preview.</summary>
    /// <param name="proposal">The answer that is proposed; null: none.</param>
    public static StepSeen Of(StepNow s, SwapRow? swap, Proposal? proposal = null)
    {
        var step = s.Step;
        var (kind, expects) = step.Work switch
        {
            StepWork.Tick => ("tick", null),
            StepWork.Confirmation => ("confirmation", null),
            StepWork.Text => ("text", null),
            StepWork.Number => ("number", null),
            StepWork.Choice => ("choice", null),
            StepWork.Again again => ("again", again.Until),
            StepWork.Timed { IsRestart: true } => ("restart", null),
            StepWork.Timed => ("timed", null),
            StepWork.Scan scan => ("scan", scan.New ? swap?.NewTag : swap?.OldTag),
            StepWork.Photo => ("photo", null),
            StepWork.Automatic { Fact: AutomaticFact.ProgramsFound, Programs: { Count: > 0 } programs } =>
                ("automatic", string.Join(", ", programs)),
            StepWork.Automatic { Fact: AutomaticFact.FreeDisk, LeastGigabytes: var room } => ("automatic", $"{room} GB free"),
            StepWork.Automatic => ("automatic", null),
            _ => throw new System.Diagnostics.UnreachableException(),
        };
        var number = step.Work as StepWork.Number;
        var seen = new StepSeen(
            step.Key, step.Title, PhaseText(step.Phase), kind, expects, step.Help, "open", null, null, null,
            Options: (step.Work as StepWork.Choice)?.Options, Unit: number?.Unit, Least: number?.Least, Most: number?.Most,
            Fact: (step.Work as StepWork.Automatic)?.Fact is { } fact ? FactText(fact) : null, ByPerson: step.IsByPerson ? true : null,
            Proposed: s.State.IsOpen && proposal is not null ? new(proposal.Value, proposal.Words) : null);
        return s.State switch
        {
            StepState.Done done =>
                seen with { State = "done", By = done.By, At = done.At, Value = done.Value, StartedAt = done.StartedAt, Runs = done.Runs },
            StepState.UnderWay going =>
                seen with { State = "under-way", By = going.By, At = going.Since, StartedAt = going.Since, Runs = going.Runs },
            StepState.NotApplicable no => seen with { State = "not-applicable", By = no.By, At = no.At, Reason = no.Reason },
            _ => seen,
        };
    }

    private static string FactText(AutomaticFact fact) => fact switch
    {
        AutomaticFact.Surveyed => "surveyed",
        AutomaticFact.StagedAndVerified => "staged-and-verified",
        AutomaticFact.ClosingTripDone => "closing-trip-done",
        AutomaticFact.RestoredAndVerified => "restored-and-verified",
        AutomaticFact.AccountClosed => "account-closed",
        AutomaticFact.SignedOut => "signed-out",
        AutomaticFact.ProgramsFound => "programs-found",
        AutomaticFact.FreeDisk => "free-disk",
        AutomaticFact.PassphraseSet => "passphrase-set",
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    /// <summary>A condition in words.</summary>
    public static string Words(StepCondition when)
    {
        var parts = new List<string>();
        void Say(string what, IEnumerable<string> of)
        {
            if (string.Join(" or ", of) is { Length: > 0 } list) parts.Add($"{what} {list}");
        }
        Say("kind", when.Kinds.Select(k => k.ToString().ToLowerInvariant()));
        Say("site", when.Sites);
        Say("room", when.Rooms);
        Say("department", when.Departments);
        Say("role", when.Roles);
        Say("old model", when.OldModels);
        Say("new model", when.NewModels);
        Say("old system", when.OldPlatforms);
        Say("new system", when.NewPlatforms);
        Say("program", when.Programs);
        foreach (var (key, answers) in when.Answers) Say($"{key}:", answers);
        return string.Join(", ", parts);
    }
}
