using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Folders;

namespace YardRelay.Contracts;

/// <summary>Asks for a code that enrols a hand on one computer.</summary>
public sealed record CodeWanted(string Tag);

/// <summary>A one-time code. It is shown this once only.</summary>
public sealed record CodeMade(string Code, string Tag, DateTimeOffset Expires);

/// <summary>A hand presents itself.</summary>
/// <param name="Host">What the computer calls itself.</param>
public sealed record EnrolWanted(string Code, string Tag, string Host);

/// <summary>The hand's own token.</summary>
/// <param name="Instead">In words, the hand that it replaces, which was heard of until now; null: there was none.</param>
public sealed record Enrolled(string Hand, string Token, string Tag, string? Instead = null);

/// <summary>What ended with a withdrawal.</summary>
/// <param name="Hand">The hand as it was; null: none was enrolled.</param>
/// <param name="Codes">Codes for the computer that nobody had used.</param>
public sealed record HandWithdrawn(HandSeen? Hand, int Codes);

/// <summary>A hand that is enrolled at a computer.</summary>
/// <param name="Tag">The computer.</param>
/// <param name="Host">What the computer called itself when it enrolled.</param>
/// <param name="Version">Version of the program; null: it was not heard of since, or does not say.</param>
/// <param name="HeardAt">When it was last heard of, to the minute; null: not since it enrolled.</param>
/// <param name="Site">Where the computer's swap takes place.</param>
/// <param name="Swap">The swap that the computer is for.</param>
/// <param name="Name">Whose swap it is.</param>
/// <param name="Order">The order that it has under way, in words; null: none.</param>
public sealed record HandSeen(
    string Tag, string Host, string? Version, DateTimeOffset EnrolledAt, DateTimeOffset? HeardAt, string Site, string Swap, string Name,
    string? Order);
