using YardRelay.Core.Swaps;

namespace YardRelay.Contracts;

/// <summary>Swaps of a site that go to the same station next.</summary>
/// <param name="Moving">Of these, with work of a hand under way.</param>
/// <param name="Stuck">Of these, with an open snag or a failed order.</param>
public sealed record YardCell(Station Station, int Swaps, int Moving, int Stuck);

/// <summary>A site in the yard.</summary>
/// <param name="Cells">By the station that comes next; stations where nobody is are left out.</param>
public sealed record YardSite(string Site, int Swaps, int Done, IReadOnlyList<YardCell> Cells);

/// <summary>How far a refresh was to be, and was, at the end of a day.</summary>
/// <param name="Planned">Swaps whose appointment was to be over by then.</param>
/// <param name="Done">Swaps accepted by then; null: that day is still to come.</param>
public sealed record ProgressDay(DateOnly Day, int Planned, int? Done);

/// <summary>How much is done of a part of a refresh.</summary>
/// <param name="Late">Not accepted, and the appointment is over.</param>
public sealed record ProgressPart(string Name, int Swaps, int Done, int Late);

/// <summary>How many open things have which age.</summary>
/// <param name="UpToDays">Younger than so many days; null: all that are older.</param>
public sealed record AgeGroup(int? UpToDays, int Snags, int FollowUps);

/// <summary>A technician's load.</summary>
/// <param name="TodayMinutes">Hands-on minutes of today's appointments.</param>
/// <param name="Ahead">Appointments that are not over, today's among them.</param>
/// <param name="FollowUps">Open ones that wait for them.</param>
public sealed record TechnicianLoad(string Key, string Name, int Today, int TodayMinutes, int Ahead, int FollowUps);

/// <summary>The whole yard: where every swap is, what is stuck and why, how far the refresh is.</summary>
/// <param name="WithoutAppointment">Swaps that have none and are not over.</param>
/// <param name="LastDay">Day of the last appointment that is booked; null: none.</param>
public sealed record YardSeen(
    DateOnly Today, DateTimeOffset Now, int Swaps, int Done, int Late, int WithoutAppointment, DateOnly? LastDay,
    IReadOnlyList<YardSite> Sites, IReadOnlyList<NeedSeen> Stuck, IReadOnlyList<ProgressDay> Progress, IReadOnlyList<ProgressPart> BySite,
    IReadOnlyList<ProgressPart> ByWave, IReadOnlyList<AgeGroup> Ages, IReadOnlyList<TechnicianLoad> Technicians);
