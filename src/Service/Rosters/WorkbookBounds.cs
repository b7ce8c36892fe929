using System.IO.Compression;
using YardRelay.Core;

namespace YardRelay.Service.Rosters;

/// <summary>
/// What a workbook may become when it is unpacked, looked at before anything reads it: what its directory says of sizes is not believed.
/// </summary>
internal static class WorkbookBounds
{
    /// <summary>Lines of a sheet that are looked at, those that are empty included.</summary>
    public const int MostLines = 200_000;

    private const int MostParts = 2_000;
    private const long MostBytes = 256 << 20;

    /// <summary>Why it is not read; null: it may be.</summary>
    /// <exception cref="InvalidDataException">It is no workbook.</exception>
    public static Problem? Passed(byte[] file)
    {
        using var archive = new ZipArchive(new MemoryStream(file, writable: false), ZipArchiveMode.Read);
        if (archive.Entries.Count > MostParts) return new RosterWorkbookLarge($"more than {MostParts:#,0} parts");
        var (left, buffer) = (MostBytes, new byte[128 * 1024]);
        foreach (var part in archive.Entries)
        {
            using var unpacked = part.Open();
            for (int got; (got = unpacked.Read(buffer)) > 0;)
                if ((left -= got) < 0) return new RosterWorkbookLarge($"more than {MostBytes >> 20} MB when it is unpacked");
        }
        return null;
    }
}
