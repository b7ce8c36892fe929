using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Keeping;

/// <summary>What was ended.</summary>
internal enum EndedKind
{
    /// <summary>Somewhere an account was signed in, by the digest of its secret.</summary>
    Session,

    /// <summary>A code for a hand that was used or withdrawn, by its digest.</summary>
    Code,

    /// <summary>A hand that was replaced or withdrawn, by its id.</summary>
    Hand,

    /// <summary>An account that was disabled or removed, by its name.</summary>
    Account,

    /// <summary>An account that was let in, or made, again.</summary>
    AccountAgain,

    /// <summary>A passkey that was removed, by its id.</summary>
    Passkey,

    /// <summary>A recovery code that was used or replaced, by its digest.</summary>
    Recovery,
}

/// <summary>
/// What was ended, kept in a file beside the database: a copy of before, put back in its place, lets nobody in again who was shut out
/// since. Each computer that the service runs on keeps what was ended through it, and ends it again at each start.
/// </summary>
internal sealed partial class Ended(string file, ILogger<Ended> log, TimeProvider time)
{
    private const int Tries = 100;
    private const int AtOnce = 400;
    private const string By = "somebody, before an older copy of the records was put back";
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(20);

    private sealed record Line(EndedKind Kind, string Id, DateTimeOffset Until)
    {
        public override string ToString() => string.Create(
            CultureInfo.InvariantCulture, $"{Kind} {Uri.EscapeDataString(Id)} {Until.ToUnixTimeSeconds()}\n");

        /// <summary>Null: it is no such line; one that broke off at the end is none.</summary>
        public static Line? Read(string text) =>
            text.Split(' ') is [var kind, var id, var until]
                && Enum.TryParse<EndedKind>(kind, out var known)
                && long.TryParse(until, NumberStyles.None, CultureInfo.InvariantCulture, out var seconds)
                ? new(known, Uri.UnescapeDataString(id), DateTimeOffset.FromUnixTimeSeconds(seconds))
                : null;
    }

    /// <summary>
    /// Writes it down, before the records say so. Where that fails it is said in the log, and what is ended ends none the less.
    /// </summary>
    /// <param name="kind">What they are.</param>
    /// <param name="all">Each with when it would have ended by itself.</param>
    public void Add(EndedKind kind, IReadOnlyCollection<(string Id, DateTimeOffset Until)> all)
    {
        if (all.Count == 0) return;
        try
        {
            using var stream = Open();
            // A line that broke off stands alone, and takes none along.
            stream.Seek(0, SeekOrigin.End);
            stream.Write(Encoding.UTF8.GetBytes('\n' + string.Concat(all.Select(e => new Line(kind, e.Id, e.Until)))));
            stream.Flush(flushToDisk: true);
        }
        catch (Exception failed) when (failed is IOException or UnauthorizedAccessException)
        {
            NotKept(log, file, failed.Message);
        }
    }

    /// <summary>Ends again what an older copy of the records may have brought back, and forgets what would be over by now.</summary>
    /// <exception cref="BadSettingException">The file cannot be read or made.</exception>
    public async Task ApplyAsync(YardDb db, CancellationToken cancel)
    {
        var lines = Live();
        foreach (var kind in lines.GroupBy(l => l.Kind))
            foreach (var some in kind.Select(l => l.Id).Distinct().Chunk(AtOnce)) await EndAsync(db, kind.Key, some, cancel);
        // Of an account, what was last counts.
        var accounts = lines.Where(l => l.Kind is EndedKind.Account or EndedKind.AccountAgain)
            .GroupBy(l => l.Id).Where(a => a.Last().Kind == EndedKind.Account).Select(a => a.Key);
        foreach (var some in accounts.Chunk(AtOnce))
            await db.Accounts.Where(a => some.Contains(a.Name) && a.DisabledAt == null)
                .ExecuteUpdateAsync(u => u.SetProperty(a => a.DisabledAt, time.GetUtcNow()), cancel);
    }

    private List<Line> Live()
    {
        try
        {
            using var stream = Open();
            var lines = Read(stream);
            var live = lines.Where(l => l.Until > time.GetUtcNow()).ToList();
            if (live.Count < lines.Count / 2) Rewrite(stream, live);
            return live;
        }
        catch (Exception failed) when (failed is IOException or UnauthorizedAccessException)
        {
            throw new BadSettingException($"What was ended stands in '{file}', which cannot be read or made: {failed.Message}");
        }
    }

    private Task EndAsync(YardDb db, EndedKind kind, string[] some, CancellationToken cancel) => kind switch
    {
        EndedKind.Session => db.Tokens.Where(t => some.Contains(t.Sha256)).ExecuteDeleteAsync(cancel),
        EndedKind.Code => db.Codes.Where(c => some.Contains(c.Sha256)).ExecuteDeleteAsync(cancel),
        EndedKind.Passkey => db.Passkeys.Where(p => some.Contains(p.Id)).ExecuteDeleteAsync(cancel),
        EndedKind.Recovery => db.Recoveries.Where(r => some.Contains(r.Sha256)).ExecuteDeleteAsync(cancel),
        EndedKind.Hand => db.Hands.Where(h => some.Contains(h.Id) && h.ReplacedAt == null).ExecuteUpdateAsync(
            u => u.SetProperty(h => h.ReplacedAt, time.GetUtcNow()).SetProperty(h => h.WithdrawnBy, By), cancel),
        _ => Task.CompletedTask,
    };

    /// <summary>Opens it for this process alone; others wait.</summary>
    private FileStream Open()
    {
        for (var tries = 0; ; tries++)
        {
            try
            {
                return new(file, new FileStreamOptions
                {
                    Mode = FileMode.OpenOrCreate,
                    Access = FileAccess.ReadWrite,
                    Share = FileShare.None,
                    UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite
                });
            }
            catch (IOException) when (tries < Tries && File.Exists(file))
            {
                Thread.Sleep(Pause);
            }
        }
    }

    private static List<Line> Read(FileStream stream)
    {
        using var reader = new StreamReader(stream, leaveOpen: true);
        return [.. reader.ReadToEnd().Split('\n').Select(Line.Read).OfType<Line>()];
    }

    private static void Rewrite(FileStream stream, List<Line> lines)
    {
        stream.SetLength(0);
        stream.Seek(0, SeekOrigin.Begin);
        stream.Write(Encoding.UTF8.GetBytes(string.Concat(lines)));
        stream.Flush(flushToDisk: true);
    }

    [LoggerMessage(
        LogLevel.Error,
        "What was ended could not be written to '{File}' ({Why}): an older copy of the records, put back, would let it in again")]
    private static partial void NotKept(ILogger log, string file, string why);
}
