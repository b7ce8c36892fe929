using YardRelay.Core.Swaps;

namespace YardRelay.Core.Roster;

/// <summary>When a person is free at their site: local time there.</summary>
public readonly record struct FreeTime(DateOnly Day, TimeOnly From, TimeOnly Until)
{
    /// <inheritdoc/>
    public override string ToString() => $"{Day:yyyy-MM-dd} {From:HH\\:mm}-{Until:HH\\:mm}";
}

/// <summary>One line of a roster: one person's swap.</summary>
/// <param name="Line">Line in the file, from 1; the head is line 1.</param>
/// <param name="Person">Stable key of the person.</param>
/// <param name="Site">Stable key of the site.</param>
/// <param name="Receiver">For <see cref="SwapKind.Leave"/>: key of the person who receives the data.</param>
/// <param name="Free">When the person is free; empty: at any time.</param>
public sealed record RosterRow(
    int Line, string Person, string Name, string? Mail, string? Department, string Site, string? Room, SwapKind Kind,
    string? OldTag, string? OldModel, string? NewTag, string? NewModel, string? Receiver, IReadOnlyList<FreeTime> Free)
{
    /// <summary>The swap's stable key: the person, and the computer it is about, since a person may have several.</summary>
    public string Key => $"{Person}/{OldTag ?? NewTag}";
}
