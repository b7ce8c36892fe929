using YardRelay.Core.Swaps;

namespace YardRelay.Core.Planning.Worlds;

/// <summary>A room of a site with benches of its own.</summary>
public sealed record Room(string Name, int Benches);

/// <summary>A site: when it is open, and how many visits may be under way there at once.</summary>
/// <param name="Benches">Where no rooms are listed; else the rooms' benches count.</param>
/// <param name="Opens">Hours of every day at which a visit may take place.</param>
public sealed record WorldSite(string Key, string Name, int Benches, IReadOnlyList<Room> Rooms, ShiftRule Opens)
{
    /// <summary>All benches.</summary>
    public int AllBenches => Rooms.Count > 0 ? Rooms.Sum(r => r.Benches) : Benches;
}

/// <summary>A technician.</summary>
/// <param name="Absences">When they are away.</param>
public sealed record WorldTechnician(
    string Key, string Name, IReadOnlyList<string> Skills, IReadOnlyList<string> Sites, IReadOnlyList<ShiftRule> Shifts,
    IReadOnlyList<LocalSpan> Absences);

/// <summary>The way between two sites, the same in both directions.</summary>
public sealed record Way(string From, string To, int Minutes);

/// <summary>A holiday or black-out: nothing takes place then.</summary>
/// <param name="Site">Null: at no site.</param>
public sealed record Closure(string Key, string Name, string? Site, LocalSpan At);

/// <summary>A batch of new computers. No swap comes before its computer.</summary>
/// <param name="Arrives">Local time from which the computers are at hand.</param>
/// <param name="Tags">Tags of the new computers in it, at least one.</param>
public sealed record Delivery(string Key, string Name, DateTime Arrives, IReadOnlyList<string> Tags);

/// <summary>A part of a refresh that goes together between two days, both included.</summary>
public sealed record Wave(string Key, string Name, DateOnly From, DateOnly Until);

/// <summary>A depot with its room.</summary>
/// <param name="CapacityBytes">How much may lie there at once; null: no bound.</param>
/// <param name="DailyBytes">What the link brings in a day; null: no bound.</param>
/// <param name="HoldDays">How long a parcel lies after its swap.</param>
/// <param name="Rate">How fast it was seen to be.</param>
public sealed record WorldDepot(string Key, string Name, long? CapacityBytes, long? DailyBytes, int HoldDays, DepotRate Rate);

/// <summary>An appointment that stands: times in minutes since 00:00 of the refresh's first day.</summary>
public sealed record Booked(string Technician, int Start, int HandsOnUntil, int Finish, int End);

/// <summary>How firmly an appointment that was promised stands while others are placed.</summary>
public enum PromiseTaken
{
    /// <summary>What is under way stays as it is; the rest may be moved.</summary>
    AsUsual,

    /// <summary>As it was booked, at its lengths of then, with its technician; its bench preparation, too.</summary>
    Fixed,

    /// <summary>At its time and at its lengths of then, with whichever technician takes it over.</summary>
    PassedOn,
}

/// <summary>A swap as planning sees it.</summary>
/// <param name="Cargo">What was found on the computer; null: not surveyed.</param>
/// <param name="Free">When person and room are free; empty: whenever the site is open.</param>
/// <param name="Preferred">What the person asked for.</param>
/// <param name="Appointment">What was published; null: nothing yet.</param>
/// <param name="Preparation">The published bench preparation.</param>
/// <param name="IsUnderWay">The appointment has begun; it stays as it is.</param>
/// <param name="IsPrepared">The bench preparation is over, or not wanted any more.</param>
/// <param name="Taken">How firmly the appointment stands.</param>
public sealed record WorldSwap(
    string Id, string Name, string Site, SwapKind Kind, IReadOnlyList<string> Skills, int Weight, string? NewTag, string? NewModel,
    string? Wave, string? Depot, Cargo? Cargo,
    IReadOnlyList<FreeTime> Free, IReadOnlyList<FreeTime> Preferred, Pin? Pinned, Booked? Appointment, Booked? Preparation, bool IsUnderWay,
    bool IsPrepared, PromiseTaken Taken = PromiseTaken.AsUsual)
{
    /// <summary>
    /// What is left of the appointment for somebody who takes it over now: all of it, or once its first part is over its last one, from
    /// now where that is late.
    /// </summary>
    /// <param name="now">Minute since 00:00 of the first day.</param>
    public WorldSwap PassedOn(int now, int grid)
    {
        var passed = this with { Taken = PromiseTaken.PassedOn };
        if (Appointment is not { } at || now < at.HandsOnUntil) return passed;
        var (start, length) = (Math.Max(at.Finish, now / grid * grid), Math.Max(grid, at.End - at.Finish));
        return passed with { Appointment = new(at.Technician, start, start + length, start + length, start + length) };
    }
}

/// <summary>All that a plan is made from, in local time and the words of the trade.</summary>
/// <param name="Grid">Minutes of which every start is a multiple.</param>
public sealed record World(
    string Refresh, DateOnly Starts, int Days, TimeZoneInfo Zone, int Grid,
    IReadOnlyList<WorldSite> Sites, IReadOnlyList<WorldTechnician> Technicians, IReadOnlyList<Way> Ways, IReadOnlyList<Closure> Closures,
    IReadOnlyList<Delivery> Deliveries, IReadOnlyList<Wave> Waves, IReadOnlyList<WorldDepot> Depots, IReadOnlyList<EstimateRule> Rules,
    IReadOnlyList<WorldSwap> Swaps, IReadOnlyList<WorldReturn>? Returns = null, IReadOnlyList<WorldGroup>? Groups = null);

/// <summary>Swaps that must be kept apart, or go together.</summary>
/// <param name="Swaps">Ids; those that are over count no more.</param>
/// <param name="AtOnce">No more of them are under way at once; null: any number.</param>
/// <param name="IsOneDay">Those that have an appointment have it on one day.</param>
public sealed record WorldGroup(string Key, string Name, IReadOnlyList<string> Swaps, int? AtOnce, bool IsOneDay);

/// <summary>Somebody must come back for a swap.</summary>
/// <param name="Swap">Its id; one swap has one return visit at a time.</param>
/// <param name="Skills">What the technician must have.</param>
/// <param name="Minutes">How long it takes, hands on.</param>
/// <param name="DueDay">Day by which it should be, from 0.</param>
/// <param name="Appointment">As it is promised; null: it is not.</param>
public sealed record WorldReturn(string Swap, string Site, IReadOnlyList<string> Skills, int Minutes, int DueDay, Booked? Appointment);
