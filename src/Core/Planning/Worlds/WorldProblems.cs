namespace YardRelay.Core.Planning.Worlds;

internal sealed record SpanProblem(string Text, string Why, string Form) : Problem(
    "span",
    $"'{Text}' is no stretch of time: {Why} Write {Form}.");

internal sealed record NoShift(string Text, string Why) : Problem(
    "technician.shift",
    $"'{Text}' is not a shift: {Why} Write 08:00-12:00 for Monday to Friday, 'daily 08:00-12:00', or 'mon,wed 08:00-12:00'; "
        + $"22:00-06:00 goes past midnight.");

internal sealed record ShiftsOverlap(string Text, string Text2, string Whose, DayOfWeek DayOfWeek) : Problem(
    "technician.shift",
    $"The shifts '{Text}' and '{Text2}' of {Whose} overlap on a "
        + $"{DayOfWeek}. Change one of them.");

internal sealed record NoChangeToAskAbout(string Text, string Why, string Forms) : Problem(
    "what-if",
    $"'{Text}' is no change to ask about: {Why} Write {Forms}.");

internal sealed record ThingUnknown(string What, string Key, string Known) : Problem(
    "what-if",
    $"There is no {What} '{Key}' in the refresh. It has "
        + $"{Known}.");

internal sealed record PlanNoSiteProblem() : Problem(
    "plan.no-site",
    "There is no site to plan for. Take a roster, or add one with 'yardline site set'.");

internal sealed record PlanNoTechnicianProblem() : Problem(
    "plan.no-technician",
    "There is no technician to plan with. Add one with 'yardline technician set'.");

internal sealed record PlanNoBenchProblem(string Site) : Problem(
    "plan.no-bench",
    $"{Site} has swaps but no bench. Give it at least one with 'yardline site set'.");

internal sealed record PlanEmptyDeliveryProblem(string Delivery) : Problem(
    "plan.empty-delivery",
    $"Delivery '{Delivery}' has no computers. Name their tags, or take the delivery out.");

internal sealed record PlanWayProblem(string From, string To, string End, string Sites) : Problem(
    "plan.way",
    $"The way from {From} to {To} names the site '{End}', which the refresh lacks. It has "
        + $"{Sites}.");

internal sealed record PlanBenchSiteProblem(string Scope, string Of, string At, string Sites) : Problem(
    "plan.bench-site",
    $"The bench preparation for {Scope} {Of} is at '{At}', which is no site of "
        + $"the refresh. It has {Sites}.");

internal sealed record PlanWorldProblem(string Dated) : Problem(
    "plan.world",
    Dated);
