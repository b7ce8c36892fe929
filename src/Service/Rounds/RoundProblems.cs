using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Rounds;

internal sealed record HandoverNothingProblem(string Mine) : ServiceProblem(
    "handover.nothing",
    $"{Mine} has nothing left today.", 409);

internal sealed record HandoverNoteProblem(int MostNote) : Problem(
    "handover.note",
    $"Say in 1 to {MostNote} characters what the next one must know.");

internal sealed record HandoverNoneProblem(string Name) : ServiceProblem(
    "handover.none",
    $"{Name} has no appointment, so nobody has it in hand. Plan it first.", 409);

internal sealed record HandoverSameProblem(string Name) : ServiceProblem(
    "handover.same",
    $"{Name} has it already.", 409);

internal sealed record HandoverSiteProblem(string Name, string Site) : ServiceProblem(
    "handover.site",
    $"{Name} does not work at {Site}. Choose somebody who does, or add the site to them.", 409);

internal sealed record HandoverSkillProblem(string Name, string Lacks) : ServiceProblem(
    "handover.skill",
    $"{Name} lacks {Lacks}, which this swap asks for.", 409);

internal sealed record HandoverOverProblem(string Name) : ServiceProblem(
    "handover.over",
    $"{Name}'s swap is over: there is nothing left to hand over.", 409);

internal sealed record HandoverNotFreeProblem(string Name, string Person, string Against, IReadOnlyList<string> Free) : ServiceProblem(
    "handover.not-free",
    $"{Name} cannot take {Person} at that time. {Against} "
        + (Free.Count > 0
            ? $"Free then: {string.Join(", ", Free)}."
            : "Nobody else who works there is free then: move the visit in the plan, or hand over what they have first."), 409);

internal sealed record NotYourDay() : ServiceProblem(
    "not-allowed",
    "A technician hands over their own day; a coordinator anybody's.", 403);

internal sealed record HandoverToProblem() : Problem(
    "handover.to",
    "Name 1 to 20 technicians who take it over.");

internal sealed record OnlyLooked() : Problem(
    "handover.looked",
    "Only looked.");

internal sealed record RoundTechnicianProblem(string Key) : ServiceProblem(
    "round.technician",
    $"'{Key}' is no technician of this refresh. Say whose round it is; a technician's own account has the same name as their key.", 404);
