namespace YardRelay.Contracts;

/// <summary>Name and password of a local account.</summary>
public sealed record SignIn(string Name, string Password);

/// <summary>Who is asking.</summary>
/// <param name="Role">coordinator, technician, auditor, person or hand.</param>
/// <param name="Sites">Keys of the sites a technician serves; empty for the others.</param>
public sealed record Me(string Name, string Shown, string Role, IReadOnlyList<string> Sites);

/// <summary>Asks for a token for a program.</summary>
/// <param name="Label">What it is for, shown in lists.</param>
public sealed record NewToken(string Name, string Password, string Label);

/// <summary>A token. It is shown this once only.</summary>
public sealed record TokenMade(string Token, DateTimeOffset Expires, Me Me);

/// <summary>A local account to make or change.</summary>
public sealed record AccountWanted(string Shown, string Role, string Password, IReadOnlyList<string> Sites, string? Person = null);
