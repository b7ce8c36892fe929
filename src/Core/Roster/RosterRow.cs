using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Planning;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Roster;

/// <summary>One line of a roster: one person's swap.</summary>
/// <param name="Line">Line in the file, from 1; the head is line 1.</param>
/// <param name="Person">Stable key of the person; empty: the file has none, see <see cref="RosterPeople"/>.</param>
/// <param name="Site">Stable key of the site.</param>
/// <param name="Receiver">For <see cref="SwapKind.Leave"/>: key of the person who receives the data.</param>
/// <param name="Closes">For <see cref="SwapKind.Leave"/>: the last day of the account.</param>
/// <param name="Accounts">Other accounts on the old computer, beside the person's own.</param>
/// <param name="Free">When the person is free; empty: at any time.</param>
/// <param name="Preferred">When the person would like it best.</param>
/// <param name="Wave">Key of a wave; null: the roster says nothing about it.</param>
/// <param name="Role">What the person does, as the organisation calls it.</param>
/// <param name="OldPlatform">System of the old computer; null: the roster says nothing about it.</param>
/// <param name="NewPlatform">System of the new computer; null: the roster says nothing about it.</param>
public sealed record RosterRow(
    int Line, string Person, string Name, string? Mail, string? Department, string Site, string? Room, SwapKind Kind,
    string? OldTag, string? OldModel, string? NewTag, string? NewModel, string? Receiver, DateOnly? Closes, IReadOnlyList<string> Accounts,
    IReadOnlyList<FreeTime> Free,
    IReadOnlyList<FreeTime> Preferred,
    string? Wave,
    string? Role = null,
    HomePlatform? OldPlatform = null,
    HomePlatform? NewPlatform = null)
{
    /// <summary>The swap's stable key: the person, and the computer it is about, since a person may have several.</summary>
    public string Key => $"{Person}/{OldTag ?? NewTag}";
}
