using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Swaps;

/// <summary>Which swaps a caller looks for; what is null or empty does not matter.</summary>
/// <param name="Text">A part of a name, id, tag or room, in any case.</param>
/// <param name="Technician">Key of whoever has the appointment.</param>
/// <param name="Next">The station that is reached next.</param>
internal sealed record SwapFilter(string? Text, string? Site, string? Technician, SwapKind? Kind, Station? Next)
{
    /// <summary>Reads what a caller wrote.</summary>
    public static Result<SwapFilter> Read(SwapsAsked asked)
    {
        SwapKind? kind = null;
        if (asked.Kind is { Length: > 0 })
        {
            if (!Enum.TryParse<SwapKind>(asked.Kind, true, out var read)) return new SwapKindUnknown(asked.Kind);
            kind = read;
        }
        Station? next = null;
        if (asked.Next is { Length: > 0 })
        {
            if (!Enum.TryParse<Station>(asked.Next, true, out var read)) return new StationUnknown(asked.Next);
            next = read;
        }
        return new SwapFilter(asked.Q, asked.Site, asked.Technician, kind, next);
    }

    /// <summary>Those of the swaps that fit.</summary>
    public IQueryable<SwapRow> Of(IQueryable<SwapRow> swaps)
    {
        if (Text is { Length: > 0 })
        {
            var like = SearchPattern.Like(Text);
            swaps = swaps.Where(s =>
                EF.Functions.Like(s.Name.ToLower(), like, "\\")
                    || EF.Functions.Like(s.Id.ToLower(), like, "\\")
                    || EF.Functions.Like((s.OldTag ?? "").ToLower(), like, "\\")
                    || EF.Functions.Like((s.NewTag ?? "").ToLower(), like, "\\")
                    || EF.Functions.Like((s.Room ?? "").ToLower(), like, "\\"));
        }
        if (Site is { Length: > 0 }) swaps = swaps.Where(s => s.Site == Site);
        if (Technician is { Length: > 0 }) swaps = swaps.Where(s => s.Technician == Technician);
        if (Kind is { } kind) swaps = swaps.Where(s => s.Kind == kind);
        return Next is { } next ? ReachingNext(swaps, next) : swaps;
    }

    // Kinds leave stations out, so the same station has another index in each; there are three of them at most.
    private static IQueryable<SwapRow> ReachingNext(IQueryable<SwapRow> swaps, Station station)
    {
        var byIndex = Enum.GetValues<SwapKind>()
            .Select(k => (Kind: k, Index: SwapLine.StationsOf(k).ToList().IndexOf(station)))
            .Where(p => p.Index >= 0)
            .GroupBy(p => p.Index, p => p.Kind)
            .Select(g => (Index: g.Key, Kinds: g.ToList()))
            .Concat(Enumerable.Repeat((Index: -1, Kinds: new List<SwapKind>()), 3))
            .ToList();
        var ((i0, k0), (i1, k1), (i2, k2)) = (byIndex[0], byIndex[1], byIndex[2]);
        return swaps.Where(s =>
            (s.Next == i0 && k0.Contains(s.Kind)) || (s.Next == i1 && k1.Contains(s.Kind)) || (s.Next == i2 && k2.Contains(s.Kind)));
    }
}
