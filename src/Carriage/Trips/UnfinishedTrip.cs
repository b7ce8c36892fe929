using System.Globalization;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>A trip that broke off, in a parcel that was restored all the same, since its source is gone for good.</summary>
/// <param name="Trip">Its number.</param>
/// <param name="Began">When it began; null: nobody can tell.</param>
/// <param name="Last">The trip before it that ended; null: none did.</param>
/// <param name="LastEnded">When that one ended.</param>
/// <param name="NewerFiles">Files that are as the trip that broke off found them, and not as the one before left them; null: nobody can
/// tell.</param>
/// <param name="Unsure">Restored files of which no list says how they must be.</param>
/// <param name="UnsurePaths">Which these are, at most <see cref="MostNamed"/>.</param>
public sealed record UnfinishedTrip(
    int Trip, DateTimeOffset? Began, int? Last, DateTimeOffset? LastEnded, long? NewerFiles, Amount Unsure,
    IReadOnlyList<string> UnsurePaths)
{
    /// <summary>Most files that are named; the others are counted.</summary>
    public const int MostNamed = 10_000;

    /// <summary>For people: what the parcel is as of, and what nobody can say.</summary>
    public string Words =>
        $"Trip {Trip}{(Began is { } began ? $", begun {At(began)}," : "")} broke off. "
            + (Last is { } last
                ? $"Each file is as trip {last}{(LastEnded is { } ended ? $" of {At(ended)}" : "")} left it, or newer where trip "
                    + $"{Trip} had brought it{Count}. What was made or changed since then and was not brought is not here, and "
                : $"No trip before it ended: what it had brought is here{Count}. What it had not is not, and ")
            + "nobody can say what that is.";

    private string Count => NewerFiles is not { } newer
        ? ""
        : $": {ByteText.Files(newer + Unsure.Files)}{(Unsure.Files > 0 ? $", {Unsure.Files:#,0} of them in no list" : "")}";

    /// <summary>What is said of a file of which no list says how it must be.</summary>
    /// <param name="isListed">A list has it, in another state.</param>
    internal string Doubt(bool isListed) => isListed
        ? $"It is another state than the lists name: trip {Trip} brought it before it broke off, or it was damaged since. Look whether it "
            + "is whole."
        : $"Trip {Trip} brought it, and broke off before it wrote that down. Look whether it is whole; its time and rights are not known.";

    /// <summary>The same of many files of one folder.</summary>
    internal string DoubtOfMany(long files) =>
        $"{ByteText.Files(files)} in or below this folder are as trip {Trip} left them when it broke off: no list says how they must be. "
            + "Look whether they are whole; their times and rights may be lost. --json names them.";

    private static string At(DateTimeOffset time) => time.UtcDateTime.ToString("yyyy-MM-dd HH:mm 'UTC'", CultureInfo.InvariantCulture);
}
