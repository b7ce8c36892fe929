using YardRelay.Core.Roster;
using YardRelay.Core.Swaps;
using YardRelay.Records;

namespace YardRelay.Service.Rosters;

/// <summary>What a roster says about a swap: what it sets, and what an undo brings back.</summary>
internal sealed record RosterFields(
    string Name, string Site, string? Room, SwapKind Kind, string? OldTag, string? OldModel, string? NewTag, string? NewModel,
    string? Receiver, DateOnly? Closes,
    IReadOnlyList<string> Accounts,
    IReadOnlyList<string> Free,
    IReadOnlyList<string> Preferred,
    string? Wave,
    string? OldPlatform = null,
    string? NewPlatform = null)
{
    public static RosterFields Of(SwapRow s) =>
        new(
            s.Name, s.Site, s.Room, s.Kind, s.OldTag, s.OldModel, s.NewTag, s.NewModel, s.Receiver, s.Closes, s.Accounts, s.Free,
            s.Preferred, s.Wave, s.OldPlatform, s.NewPlatform);

    /// <param name="now">The swap as it is; what the row says nothing about stays.</param>
    public static RosterFields Of(RosterRow r, SwapRow? now) => new(
        r.Name, r.Site, r.Room, r.Kind, r.OldTag, r.OldModel, r.Kind == SwapKind.Reimage ? r.NewTag ?? r.OldTag : r.NewTag, r.NewModel,
        r.Receiver, r.Closes,
        r.Accounts,
        [.. r.Free.Select(f => f.ToString())],
        r.Preferred.Count == 0 ? now?.Preferred ?? [] : [.. r.Preferred.Select(f => f.ToString())],
        r.Wave ?? now?.Wave,
        r.OldPlatform?.ToString() ?? now?.OldPlatform, r.NewPlatform?.ToString() ?? now?.NewPlatform);

    public void Into(SwapRow s)
    {
        (
            s.Name, s.Site, s.Room, s.Kind, s.OldTag, s.OldModel, s.NewTag, s.NewModel, s.Receiver, s.Closes, s.Wave, s.OldPlatform,
            s.NewPlatform) =
            (Name, Site, Room, Kind, OldTag, OldModel, NewTag, NewModel, Receiver, Closes, Wave, OldPlatform, NewPlatform);
        if (!s.Accounts.SequenceEqual(Accounts)) s.Accounts = [.. Accounts];
        if (!s.Free.SequenceEqual(Free)) s.Free = [.. Free];
        if (!s.Preferred.SequenceEqual(Preferred)) s.Preferred = [.. Preferred];
    }

    public bool SameAs(RosterFields other) =>
        ToString() == other.ToString()
            && (OldModel, NewModel, OldPlatform, NewPlatform) == (other.OldModel, other.NewModel, other.OldPlatform, other.NewPlatform);

    public override string ToString() =>
        $"{Name}, {Kind.ToString().ToLowerInvariant()}, {Site}{(Room is null ? "" : " " + Room)}, {OldTag} → {NewTag}"
            + $"{(Receiver is null ? "" : ", for " + Receiver)}{(Closes is null ? "" : $", closes {Closes:yyyy-MM-dd}")}"
            + $"{(Accounts.Count == 0 ? "" : ", with " + string.Join(", ", Accounts))}{(Wave is null ? "" : $", wave {Wave}")}"
                    + $"{(Free.Count == 0 ? "" : ", free " + string.Join("; ", Free))}"
                    + $"{(Preferred.Count == 0 ? "" : ", prefers " + string.Join("; ", Preferred))}";
}
