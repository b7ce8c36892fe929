using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// The looks of a closing trip, after which nobody looks any more: once everything came it looks at the source again, until a look finds
/// nothing that came or changed since the one before. What is written to each time is named.
/// </summary>
/// <param name="isClosing">Whether it is one; else one look is all.</param>
internal sealed class ClosingLooks(bool isClosing)
{
    private const int Most = 4;
    private const int MostNamed = 100;
    private const int MostKnown = 100_000;
    private readonly List<Snag> _staged = [];
    private readonly HashSet<string> _known = new(StringComparer.Ordinal);
    private int _done;

    /// <summary>What was brought more than once in this trip: it counts once.</summary>
    public Amount Twice { get; private set; }

    /// <summary>Whether everything was looked at before.</summary>
    public bool AreBegun => _done > 0;

    /// <summary>A file was brought.</summary>
    /// <param name="before">How long what the parcel had of it was; null: it had nothing.</param>
    public void Staged(string shown, long bytes, long? before)
    {
        if (isClosing && _known.Contains(shown)) Twice += Amount.File(before ?? bytes);
        else if (isClosing && _known.Count < MostKnown) _known.Add(shown);
        if (AreBegun && _staged.Count < MostNamed)
            _staged.Add(new(
                shown,
                SnagKind.ChangedWhileRead,
                bytes,
                "It is written to while the closing trip runs: the parcel has a state of it, and maybe not the last one. Close the program "
                    + "that writes to it, then run the closing trip again.",
                CountsAsFile: false));
    }

    /// <summary>A look at everything is over; true: another follows.</summary>
    /// <param name="added">What it brought.</param>
    public bool Again(Amount added)
    {
        _done++;
        return isClosing && _done < Most && (_done == 1 || added.Files > 0);
    }

    /// <summary>The walk begins once more.</summary>
    public void Restart() => _staged.Clear();

    /// <summary>What was brought in the last look, which was to find nothing.</summary>
    public IReadOnlyList<Snag> Snags => _done > 1 ? _staged : [];
}
