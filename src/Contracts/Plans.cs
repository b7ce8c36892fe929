namespace YardRelay.Contracts;

/// <summary>Asks for a draft of a plan for all swaps whose appointment has not begun.</summary>
/// <param name="Steps">Steps of search, 0 to 1,000,000; the same steps and seed give the same plan.</param>
/// <param name="Seconds">Searches so long instead, 0 to 60.</param>
/// <param name="Afresh">True: does not go on from the draft, or from what was published.</param>
public sealed record PlanWanted(long Steps = 20_000, int Seed = 1, double? Seconds = null, bool Afresh = false);

/// <summary>An appointment: first hands-on part, unattended part, last hands-on part.</summary>
/// <param name="Technician">Key.</param>
/// <param name="TechnicianName">Name.</param>
/// <param name="Swap">Id of the swap; of a return visit with <c>/return</c> behind it.</param>
/// <param name="IsBench">The bench preparation before the visit.</param>
/// <param name="IsPinned">Fixed in time or technician.</param>
/// <param name="IsAway">The technician is away while their hands are wanted.</param>
/// <param name="Booked">Of an appointment of a draft that is booked otherwise or not at all: what is booked, in words; null: what is shown
/// is booked so.</param>
public sealed record AppointmentSeen(
    string Swap, string Person, string Site, string? Room, string Technician, string TechnicianName,
    DateTimeOffset Start,
    DateTimeOffset HandsOnUntil,
    DateTimeOffset Finish,
    DateTimeOffset End,
    bool IsBench = false,
    bool IsPinned = false,
    bool IsAway = false,
    string? Booked = null)
{
    /// <summary>With whom, and if they are away then, that.</summary>
    public string With => IsAway ? $"{TechnicianName}, who is away then" : TechnicianName;
}

/// <summary>A swap without an appointment, and why.</summary>
public sealed record LeftOutSeen(string Swap, string Person, string Because);

/// <summary>What a plan costs, part by part (lower is better), and how far it reaches.</summary>
public sealed record PlanFigures(
    int Placed, int LeftOut, int Cost, int CostLeftOut, int CostLate, int CostNotPreferred, int CostMoved, int CostJourneys,
    int CostTechnicianDays, DateOnly? LastDay);

/// <summary>A plan.</summary>
/// <param name="Number">0: there is none yet.</param>
/// <param name="State">none, draft, published or past.</param>
/// <param name="Version">Give this as <c>If-Match: "version"</c> with a change of the draft.</param>
/// <param name="BasedOn">Number of the published plan that it was made from; 0: none.</param>
/// <param name="Lost">Appointments of the draft that no longer fit the world as it is now.</param>
/// <param name="CanUndo">A move by hand can be undone.</param>
/// <param name="Away">Who is away when, as far as the refresh reaches.</param>
public sealed record PlanSeen(
    int Number, string State, int Version, int BasedOn, string? MadeBy, DateTimeOffset? MadeAt, string? PublishedBy,
    DateTimeOffset? PublishedAt,
    IReadOnlyList<AppointmentSeen> Appointments,
    IReadOnlyList<LeftOutSeen> LeftOut,
    IReadOnlyList<LeftOutSeen> Lost,
    PlanFigures Figures,
    bool CanUndo,
    PlanLoad Load,
    IReadOnlyList<AwaySeen>? Away = null);

/// <summary>When a technician is away.</summary>
/// <param name="Technician">Key.</param>
public sealed record AwaySeen(string Technician, string Name, DateTimeOffset From, DateTimeOffset Until);

/// <summary>How full a plan makes technicians, depots and links.</summary>
/// <param name="Days">Every day of the refresh.</param>
public sealed record PlanLoad(IReadOnlyList<DayLoad> Days, IReadOnlyList<DepotLoad> Depots);

/// <summary>A day's work.</summary>
/// <param name="HandsOnMinutes">Planned, of all technicians together.</param>
/// <param name="ShiftMinutes">What they work that day.</param>
public sealed record DayLoad(DateOnly Day, int Visits, int HandsOnMinutes, int ShiftMinutes);

/// <summary>A depot's room and link, day by day, in bytes.</summary>
/// <param name="Lies">What lies there on each day.</param>
/// <param name="Brought">What the link must have brought for each day's visits.</param>
public sealed record DepotLoad(
    string Key, string Name, long? CapacityBytes, long? DailyBytes, IReadOnlyList<long> Lies, IReadOnlyList<long> Brought);

/// <summary>A plan in the history.</summary>
public sealed record PlanListed(
    int Number, string State, int BasedOn, string MadeBy, DateTimeOffset MadeAt, string? PublishedBy, DateTimeOffset? PublishedAt,
    int Placed, int LeftOut, int Cost);

/// <summary>Puts a visit of the draft somewhere; without technician and start it is taken out.</summary>
public sealed record MoveWanted(string Swap, string? Technician, DateTimeOffset? Start, bool IsBench = false);

/// <summary>What comes of a move.</summary>
/// <param name="Breaks">Rules that it would break, in words; empty: it was made, or could be.</param>
/// <param name="Version">Version of the draft after it.</param>
public sealed record MoveSeen(
    bool IsAllowed, IReadOnlyList<string> Breaks, int CostBefore, int CostAfter, AppointmentSeen? At, int Version);

/// <summary>What one plan does otherwise than another.</summary>
/// <param name="Words">For people.</param>
public sealed record PlanChangeSeen(
    string Swap, string Person, bool IsBench, AppointmentSeen? Before, AppointmentSeen? After, string Words);

/// <summary>Two plans compared.</summary>
public sealed record PlansCompared(int From, int To, PlanFigures Before, PlanFigures After, IReadOnlyList<PlanChangeSeen> Changes);

/// <summary>A change that would let a swap in.</summary>
/// <param name="Rule">The rule that stands in the way, as numbered in docs/formats.md.</param>
public sealed record WayInSeen(int Rule, string Words, string? Technician, DateTimeOffset? Start);

/// <summary>Why a swap has no appointment, smallest change first; empty: it has one.</summary>
public sealed record WhyNotSeen(string Swap, string Person, AppointmentSeen? Appointment, IReadOnlyList<WayInSeen> Ways);

/// <summary>Asks what would be if the world were otherwise. Nothing is changed.</summary>
/// <param name="Changes">Such as <c>away noor 2026-11-26</c>, <c>like noor</c>, <c>benches "North Quay" 2</c>, <c>depot cloud 2</c>,
/// <c>late D1 3</c>; 1 to 20.</param>
/// <param name="Seconds">How long each of the two plans is improved, 0 to 30.</param>
public sealed record WhatIfWanted(IReadOnlyList<string> Changes, double Seconds = 2);

/// <summary>What would be.</summary>
/// <param name="Before">The plan as it is, improved for as long.</param>
/// <param name="Moved">Appointments that would stand elsewhere.</param>
/// <param name="LeftOut">Who would be without an appointment that has one now.</param>
public sealed record WhatIfSeen(
    PlanFigures Before, PlanFigures After, int Moved, IReadOnlyList<LeftOutSeen> LeftOut, IReadOnlyList<LeftOutSeen> LetIn, string Words);

/// <summary>Asks how a plan may go.</summary>
/// <param name="Runs">1 to 20,000.</param>
/// <param name="LengthSpread">Standard deviation of the logarithm of lengths, 0 to 2.</param>
/// <param name="NoShow">Chance, 0 to 1.</param>
/// <param name="FailedTrip">Chance, 0 to 1.</param>
public sealed record OutlookWanted(
    int Runs = 2000, int Seed = 1, double LengthSpread = 0.25, double NoShow = 0.04, double FailedTrip = 0.03, int OvertimeMinutes = 30);

/// <summary>A day's chances.</summary>
/// <param name="DoneBy">Chance that all is done by the end of this day.</param>
/// <param name="Overtime">Chance that somebody works past a shift; null: nothing is planned then.</param>
/// <param name="Repeated">Visits that must be repeated, on average.</param>
public sealed record OutlookDay(DateOnly Day, int Visits, double DoneBy, double? Overtime, double? Repeated, bool IsBeyond);

/// <summary>A site's chances.</summary>
public sealed record OutlookSite(string Site, int Visits, double Repeated);

/// <summary>How a plan may go.</summary>
/// <param name="InTime">Chance that all that is placed is done by the refresh's last day.</param>
/// <param name="SureDay">The first day by which all is done in 95 of 100 runs; null: later than the report reaches.</param>
public sealed record OutlookSeen(
    OutlookWanted Asked, double InTime, DateOnly? SureDay, int LeftOut, IReadOnlyList<OutlookDay> Days, IReadOnlyList<OutlookSite> Sites);

/// <summary>Asks what slack in the visits would buy.</summary>
/// <param name="Doubts">What is not certain; as for the outlook.</param>
/// <param name="Seconds">How long each step's plan is improved, 0 to 10.</param>
public sealed record SlackWanted(OutlookWanted Doubts, double Seconds = 1);

/// <summary>A plan in which every visit has so much more time than its estimate.</summary>
/// <param name="Minutes">How many more for each visit, at its end; 0: the plan as it is.</param>
/// <param name="LeftOut">Swaps that then have no place.</param>
/// <param name="Moved">Appointments that would be another.</param>
/// <param name="InTime">Chance that all that is placed is done by the refresh's last day.</param>
/// <param name="Overtime">Chance that somebody works past a shift, on the average day with visits.</param>
/// <param name="Repeated">Visits that must be repeated, on average.</param>
public sealed record SlackStep(int Minutes, int LeftOut, int Moved, DateOnly? LastDay, double InTime, double Overtime, double Repeated);

/// <summary>How much slack buys how much, from none upwards.</summary>
public sealed record SlackSeen(IReadOnlyList<SlackStep> Steps);

/// <summary>Asks for an address that a calendar program can subscribe to.</summary>
/// <param name="Site">Only of this site.</param>
/// <param name="Technician">Only of this technician.</param>
public sealed record FeedWanted(string? Site = null, string? Technician = null);

/// <summary>The address of a calendar. Who has it can read these appointments, until it is withdrawn.</summary>
public sealed record FeedMade(string Id, string Address);

/// <summary>An address that a calendar program reads at, without what opens it.</summary>
/// <param name="MadeBy">Name of the account that made it, and with which it ends.</param>
/// <param name="ReadAt">When it was last read, to the hour; null: never.</param>
public sealed record FeedSeen(string Id, string? Site, string? Technician, string MadeBy, DateTimeOffset MadeAt, DateTimeOffset? ReadAt);
