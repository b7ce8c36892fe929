using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Worlds;

internal sealed record CalendarSizeProblem() : Problem(
    "calendar.size",
    "A calendar has at most 16 MB.");

internal sealed record CalendarFormProblem() : Problem(
    "calendar.form",
    "This is no iCalendar file with events. It must begin with BEGIN:VCALENDAR.");

internal sealed record CalendarRuleProblem(string Event, string Why) : Problem(
    "calendar.rule",
    $"The calendar's event '{(Event.Length > 60 ? Event[..60] + "…" : Event)}' is not taken: {Why}. "
        + "Take it out, and send the calendar again.");

internal sealed record CalendarManyProblem(int FoundCount, int MostEvents) : Problem(
    "calendar.many",
    $"The calendar has {FoundCount} events within the refresh; at most {MostEvents} are taken. Is it a calendar of "
        + $"holidays?");

internal sealed record CatalogueWhereProblem() : Problem(
    "catalogue.where",
    "Where to get it has at most 300 characters.");

internal sealed record CatalogueProgramProblem(string Name) : Problem(
    "catalogue.program",
    $"'{Name}' fits every program. Name at least a part of one.");

internal sealed record ClosureSiteProblem(string Site, string Refresh, string Sites) : Problem(
    "closure.site",
    $"Site '{Site}' is not in refresh '{Refresh}'. It has "
        + $"{Sites}.");

internal sealed record DeliveryArrivesProblem(string Arrives) : Problem(
    "delivery.arrives",
    $"'{Arrives}' is no time. Write 2026-11-30 12:00, or 2026-11-30 for noon of that day.");

internal sealed record DeliveryEmptyProblem(string Name) : Problem(
    "delivery.empty",
    $"Delivery '{Name}' has no computers. Name the tags of its new computers.");

internal sealed record DeliveryTagsUnknown(int Count, string Tags, string AndMore) : Problem(
    "delivery.tag",
    $"{Count} of its tags belong to no new computer of the roster: {Tags}"
        + $"{AndMore}. Correct them, or take the roster first.");

internal sealed record DeliveredTwice(string Tag, string Delivery) : Problem(
    "delivery.tag",
    $"{Tag} comes with delivery '{Delivery}' already. A computer comes once.");

internal sealed record WaveEndsBeforeItBegins(string Name, DateOnly Until, DateOnly From) : Problem(
    "wave.dates",
    $"Wave '{Name}' ends on {Until:yyyy-MM-dd}, before it begins on {From:yyyy-MM-dd}.");

internal sealed record WaveOutsideRefresh(string Name, DateOnly Starts, DateOnly Ends) : Problem(
    "wave.dates",
    $"Wave '{Name}' lies outside the refresh, which goes from {Starts:yyyy-MM-dd} to "
        + $"{Ends:yyyy-MM-dd}.");

internal sealed record DepotAddressFaulty(string Address) : Problem(
    "depot.address",
    $"'{Address}' is not an address of a depot. Use file:///path, http(s)://host/path or sftp://user@host/path, or "
        + $"built-in for the one of the service.");

internal sealed record PasswordInAddress() : Problem(
    "depot.address",
    "An address holds no password. Give user and password apart, or let hands take them from YARD_DEPOT_USER and "
        + "YARD_DEPOT_PASSWORD.");

internal sealed record DepotRoomProblem() : Problem(
    "depot.room",
    "A depot's room and what its link brings are 0 bytes or more; leave them out for no bound.");

internal sealed record DepotSealToProblem(string Mistyped) : Problem(
    "depot.seal-to",
    $"'{Mistyped}' is no recipient. One begins with age1 and has 62 characters; 'yardhand key make' makes one.");

internal sealed record CopyInTheSameDepot() : Problem(
    "depot.copy-to",
    "A second copy in the same depot is lost with the first. Name another depot.");

internal sealed record DepotHoldProblem(int? HoldDays) : Problem(
    "depot.hold",
    $"A parcel is held 0 to 366 days, not {HoldDays}.");

internal sealed record CopyToUnknown(string Other) : Problem(
    "depot.copy-to",
    $"'{Other}' is no depot of this refresh that a hand can write a second copy to. Add it first, with an address of its own.");

internal sealed record EstimateScopeProblem(string Scope) : Problem(
    "estimate.scope",
    $"'{Scope}' is no scope of an estimate. Use swap, model or kind.");

internal sealed record EstimateKindProblem(string Of, string Kinds) : Problem(
    "estimate.kind",
    $"'{Of}' is not a kind of swap. Use {Kinds}.");

internal sealed record EstimateMinutesProblem() : Problem(
    "estimate.minutes",
    "The first part takes 1 to 1440 minutes, the others 0 to 1440.");

internal sealed record EstimateBenchProblem() : Problem(
    "estimate.bench",
    "A bench preparation has 1 to 1440 hands-on minutes, 0 to 1440 unattended, and a gap of 0 to 20160 minutes (two "
        + "weeks).");

internal sealed record EstimateEmptyProblem() : Problem(
    "estimate.empty",
    "Nothing is set. Give a length or a bench preparation, or take the override out.");

internal sealed record EstimateSiteProblem(string Site, string Refresh) : Problem(
    "estimate.site",
    $"Site '{Site}' is not in refresh '{Refresh}'.");

internal sealed record SiteBenchesProblem(int Benches) : Problem(
    "site.benches",
    $"A site has 0 to 1000 benches, not {Benches}.");

internal sealed record RoomFaulty(string Name) : Problem(
    "site.room",
    $"Room '{Name}' needs a name and 0 to 1000 benches.");

internal sealed record RoomTwice(string Name) : Problem(
    "site.room",
    $"Room '{Name}' stands twice. Keep one.");

internal sealed record SiteOpensProblem(string Why) : Problem(
    "site.opens",
    Why);

internal sealed record SiteHasSwaps(string Site, int Swaps) : ServiceProblem(
    "site.in-use",
    $"{Site} has {Swaps} swaps. Move them in the roster first.", 409);

internal sealed record SiteIsServed(string Served, string Site) : ServiceProblem(
    "site.in-use",
    $"{Served} serves {Site}. Change that technician first.", 409);

internal sealed record WayMinutesProblem(int Minutes) : Problem(
    "way.minutes",
    $"A way takes 0 to 1440 minutes, not {Minutes}.");

internal sealed record WayToItself() : Problem(
    "way.sites",
    "A way goes from one site to another.");

internal sealed record WaySiteUnknown(string Site, string Refresh, string Sites) : Problem(
    "way.sites",
    $"Site '{Site}' is not in refresh '{Refresh}'. It has "
        + $"{Sites}.");

internal sealed record SpareModelProblem() : Problem(
    "spare.model",
    "A model has at most 100 characters.");

internal sealed record SpareTroubleProblem() : Problem(
    "spare.trouble",
    "What is wrong with it is said in at most 500 characters.");

internal sealed record SpareTakenProblem(string Tag, string Swap, string? Name) : ServiceProblem(
    "spare.taken",
    $"{Tag} belongs to the swap {Swap}{(Name is null ? "" : $" of {Name}")}, so it is no spare.", 409);

internal sealed record SpareElsewhereProblem(string Tag, string Site) : ServiceProblem(
    "not-allowed",
    $"{Site} is not one of your sites: whether {Tag} is a spare there is said by somebody who works there, or the coordinator.", 403);

internal sealed record TechnicianSiteProblem(string Site, string Refresh, string Sites) : Problem(
    "technician.site",
    $"Site '{Site}' is not in refresh '{Refresh}'. It has {Sites}.");
