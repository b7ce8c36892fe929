using System.Globalization;

namespace YardRelay.Core.Carrying;

/// <summary>In which state the lists of a parcel are: which trip left them, and what they are.</summary>
/// <param name="Trip">The last trip that ended, from 1.</param>
/// <param name="Sha256">
/// Lower-case hexadecimal SHA-256 of the lines of the tag manifest but those of keys, in the order of their paths: a key more is no other
/// state.
/// </param>
public sealed record ParcelState(int Trip, string Sha256)
{
    /// <summary>As it is kept: the trip, a space, the digest.</summary>
    public override string ToString() => FormattableString.Invariant($"{Trip} {Sha256}");

    /// <summary>Reads what <see cref="ToString"/> wrote; null: it is none.</summary>
    public static ParcelState? TryParse(string? text) =>
        text?.Split(' ') is [var trip, { Length: 64 } sha256] && int.TryParse(trip, CultureInfo.InvariantCulture, out var number)
            ? new(number, sha256)
            : null;
}

/// <summary>A state of a parcel with what its trips say of the states before.</summary>
/// <param name="Now">How it is.</param>
/// <param name="Found">Digest of the state that a trip found when it began, by the trip's number; only of trips that say so.</param>
public sealed record ParcelHistory(ParcelState Now, IReadOnlyDictionary<int, string> Found);

/// <summary>How a parcel stands to what was last heard of it.</summary>
public enum ParcelStanding
{
    /// <summary>It is as it was.</summary>
    AsKnown,

    /// <summary>A trip went on from there, of which nobody has told: a hand died before its report, or worked alone.</summary>
    Ahead,

    /// <summary>Its lists were put back, exchanged or changed.</summary>
    Other,
}

/// <summary>A parcel held against what was last heard of it.</summary>
/// <param name="Words">In whole sentences; empty where it is as known.</param>
/// <param name="State">How it is; null: it has no lists of a trip that ended.</param>
public sealed record ParcelHeld(ParcelStanding Standing, string Words, ParcelState? State)
{
    /// <summary>Judges what was found.</summary>
    /// <param name="known">What was last heard of it; null: nothing, so that whatever is there is as known.</param>
    /// <param name="found">What is there; null: no trip has ended there, as far as its lists say.</param>
    public static ParcelHeld Against(ParcelState? known, ParcelHistory? found)
    {
        if (known is null || known.Sha256 == found?.Now.Sha256) return new(ParcelStanding.AsKnown, "", found?.Now);
        if (found is null)
            return Other($"The parcel has no lists of a trip that ended, and trip {known.Trip} has left some: they are gone or changed.");
        var now = found.Now.Trip;
        if (now < known.Trip)
            return Other($"The lists of the parcel are those of trip {now}, and trip {known.Trip} has ended since: they were put back.");
        if (now == known.Trip) return Other($"The lists of the parcel are not those that trip {now} left: they were changed or exchanged.");
        // A trip of an older program says nothing of what it found.
        return found.Found.TryGetValue(known.Trip + 1, out var from) && from != known.Sha256
            ? Other($"The lists of the parcel are those of a trip {now} that does not go back to trip {known.Trip} as it was left.")
            : new(
                ParcelStanding.Ahead,
                $"The parcel has trip {now}, and nobody has told of any after trip {known.Trip}: a hand died before its report, or worked "
                    + "alone.",
                found.Now);

        ParcelHeld Other(string words) => new(ParcelStanding.Other, words, found?.Now);
    }
}
