using System.Globalization;
using YardRelay.Core;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>There is no such account on this computer.</summary>
public sealed record AccountUnknown(string Account) : Problem(
    "restore.owner",
    $"This computer knows no account '{Account}'. Name one that it has, or give numbers as USER:GROUP.");

/// <summary>
/// To whom what a restore makes belongs, where an administrator restores for somebody else: to one account, or to whoever owns the folder
/// in which it lands.
/// </summary>
/// <param name="To">One account for all; null: the owner of each folder.</param>
public sealed record OwnerRule(NodeOwner? To)
{
    /// <summary>Reads an account's name, or numbers as <c>USER:GROUP</c>; null: the owner of each folder.</summary>
    public static Result<OwnerRule> Read(string? account)
    {
        if (account is null) return new OwnerRule(To: null);
        if (account.Split(':') is [var user, var group]
            && uint.TryParse(user, NumberStyles.None, CultureInfo.InvariantCulture, out var u)
            && uint.TryParse(group, NumberStyles.None, CultureInfo.InvariantCulture, out var g))
            return new OwnerRule(new NodeOwner(u, g));
        return FileSystem.OfThisComputer.TryFindAccount(account) is { } found ? new OwnerRule(found) : new AccountUnknown(account);
    }
}

/// <summary>Gives what a restore makes to whom it is to belong.</summary>
/// <param name="rule">Null: it stays with the account that restores.</param>
internal sealed class Owning(OwnerRule? rule)
{
    private int _failed;

    /// <summary>Gives a file or folder that was made in a folder.</summary>
    public void Give(OpenNode made, OpenFolder into)
    {
        if (rule is null) return;
        var (owner, has) = (rule.To ?? into.Facts().Owner, made.Facts().Owner);
        if (owner != has && !made.TrySetOwner(owner)) Interlocked.Increment(ref _failed);
    }

    /// <summary>Gives a link that lies aside before it comes into a folder.</summary>
    public void GiveLink(OpenFolder aside, byte[] name, OpenFolder into)
    {
        if (rule is null) return;
        if (!aside.TrySetLinkOwner(name, rule.To ?? into.Facts().Owner)) Interlocked.Increment(ref _failed);
    }

    /// <summary>What is to be said where some could not be given; null: nothing.</summary>
    public Snag? Failed => _failed == 0
        ? null
        : new(
            "./",
            SnagKind.AttributeLost,
            0,
            $"{_failed:#,0} of the files and folders could not be given to their owner: the file system or the rights forbid it.",
            CountsAsFile: false,
            Files: _failed);
}
