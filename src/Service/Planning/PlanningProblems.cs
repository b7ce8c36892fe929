using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Planning;

internal sealed record PlanNoneProblem() : ServiceProblem(
    "plan.none",
    "There is no plan yet. Make a draft with 'yardline plan make'.", 409);

internal sealed record WhatIfChangesProblem(int MostChanges, string Forms) : Problem(
    "what-if.changes",
    $"Ask about 1 to {MostChanges} changes: {Forms}.");

internal sealed record WhatIfSecondsProblem(double Seconds) : Problem(
    "what-if.seconds",
    $"Seconds are 0 to 30, not {Seconds}.");

internal sealed record OutlookRunsProblem(int MostRuns, int Runs) : Problem(
    "outlook.runs",
    $"Runs are 1 to {MostRuns:#,0}, not {Runs}.");

internal sealed record SlackSecondsProblem(double Seconds) : Problem(
    "slack.seconds",
    $"Seconds are 0 to 10, not {Seconds}.");

internal sealed record NoDraftToChange() : ServiceProblem(
    "plan.no-draft",
    "There is no draft to change. Make one with 'yardline plan make'; it goes on from what is published.", 409);

internal sealed record MoveStartProblem() : Problem(
    "move.start",
    "Say when the visit should start.");

internal sealed record MoveUnderWayProblem(string Under) : ServiceProblem(
    "move.under-way",
    $"The swap of {Under} is under way and stays where it is.", 409);

internal sealed record DraftNothingToUndoProblem() : ServiceProblem(
    "draft.nothing-to-undo",
    "No move by hand is left to take back.", 409);

internal sealed record DraftVersionProblem() : ServiceProblem(
    "draft.version",
    "Say which version of the draft you mean with If-Match: \"version\".", 428);

internal sealed record PlanFormProblem(string Form) : Problem(
    "plan.form",
    $"'{Form}' is no form of a plan. Use ics, csv or xlsx.");

internal sealed record FeedOfAnotherSite(string Site) : ServiceProblem(
    "not-allowed",
    $"{Site} is not one of your sites. Ask the coordinator for an address of its appointments.", 403);

internal sealed record FeedsTooManyProblem(int Most) : ServiceProblem(
    "feed.too-many",
    $"You have {Most} addresses for calendars in this refresh. Withdraw one that nobody reads.", 409);

internal sealed record NoDraftToCompare() : ServiceProblem(
    "plan.no-draft",
    "There is no draft to compare. Make one with 'yardline plan make', or name two plans.", 409);

internal sealed record PlanStepsProblem(long Steps) : Problem(
    "plan.steps",
    $"Steps are 0 to 1,000,000, not {Steps}.");

internal sealed record PlanSecondsProblem(double Seconds) : Problem(
    "plan.seconds",
    $"Seconds are 0 to 60, not {Seconds}.");

internal sealed record PlanChangedProblem(string MadeBy, int Number) : ServiceProblem(
    "plan.changed",
    $"{MadeBy}'s draft {Number} was changed while this one was being planned. Look at it, then plan again.", 409);

internal sealed record NoDraftToPublish() : ServiceProblem(
    "plan.no-draft",
    "There is no draft to publish: it was published or thrown away. Make one with 'yardline plan make'.", 409);

internal sealed record PlanOvertakenProblem(string? By, int? Number, int BasedOn) : ServiceProblem(
    "plan.overtaken",
    $"{By} published plan {Number} while this draft was being made from plan {BasedOn}. "
        + $"Make the draft anew; it goes on from both.", 409);

internal sealed record PlanNoLongerFitsProblem(int Lost, string Name, DateTimeOffset Start) : ServiceProblem(
    "plan.no-longer-fits",
    $"{Lost} appointments of the draft no longer fit, the first is {Name} at "
        + $"{Start:ddd d MMM HH:mm}. Plan again: the rest stays where it is.", 409);
