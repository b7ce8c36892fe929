using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Accounts;

/// <summary>Programs that ask to be let in, found by the code that they show; whoever tries codes is slowed.</summary>
internal sealed class Askings(Guesses guesses, TimeProvider time)
{
    /// <summary>Letters of one half of a code.</summary>
    public const int PartLength = 4;

    /// <summary>What asks with a code, however it is typed, and was not answered; null: nothing does, or too many were tried.</summary>
    public async Task<AskingRow?> FindAsync(YardDb db, string code, HttpContext context, CancellationToken cancel)
    {
        var guess = await guesses.CountAsync($"{context.User.NameOf()} let-in", context.Connection.RemoteIpAddress, null, cancel);
        if (guess.Wait is not null) return null;
        var letters = new string([.. code.ToUpperInvariant().Where(char.IsAsciiLetter)]);
        if (letters.Length != 2 * PartLength) return null;
        var (typed, now) = ($"{letters[..PartLength]}-{letters[PartLength..]}", time.GetUtcNow());
        var found = await db.Askings.AsNoTracking().FirstOrDefaultAsync(
            a => a.Code == typed && a.Expires > now && a.LetInBy == null, cancel);
        if (found is not null) await guesses.GiveBackAsync(guess, cancel);
        return found;
    }
}
