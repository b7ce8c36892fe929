using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Folders;

namespace YardRelay.Contracts;

/// <summary>Asks for a code that enrols a hand on one computer.</summary>
public sealed record CodeWanted(string Tag);

/// <summary>A one-time code. It is shown this once only.</summary>
public sealed record CodeMade(string Code, string Tag, DateTimeOffset Expires);

/// <summary>A hand presents itself.</summary>
public sealed record EnrolWanted(string Code, string Tag, string Host);

/// <summary>The hand's own token.</summary>
public sealed record Enrolled(string Hand, string Token, string Tag);
