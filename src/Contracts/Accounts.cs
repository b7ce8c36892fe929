namespace YardRelay.Contracts;

/// <summary>Name and password of a local account.</summary>
public sealed record SignIn(string Name, string Password);

/// <summary>Who is asking.</summary>
/// <param name="Role">coordinator, technician, auditor, person or hand.</param>
/// <param name="Sites">Keys of the sites a technician serves; empty for the others.</param>
/// <param name="Refreshes">Keys of the refreshes that the account reaches; empty: all.</param>
public sealed record Me(string Name, string Shown, string Role, IReadOnlyList<string> Sites, IReadOnlyList<string> Refreshes);

/// <summary>Asks for a token for a program.</summary>
/// <param name="Label">What it is for, shown in lists.</param>
/// <param name="Device">What the program got when it was signed in before (<see cref="TokenMade.Device"/>); null: it was not.</param>
public sealed record NewToken(string Name, string Password, string Label, string? Device = null);

/// <summary>A token. It is shown this once only.</summary>
/// <param name="Device">What the program shows when it signs in again, so that others who guess at the password do not keep it
/// out.</param>
public sealed record TokenMade(string Token, DateTimeOffset Expires, Me Me, string Device);

/// <summary>Somewhere an account is signed in.</summary>
/// <param name="Id">To end it by.</param>
/// <param name="Label">The browser or the program, in words.</param>
/// <param name="IsBrowser">A browser, and not a program.</param>
/// <param name="MadeAt">When it was signed in; null: before that was kept.</param>
/// <param name="SeenAt">When it was last used, to the minute.</param>
/// <param name="Ends">When it ends by itself if it is not used any more.</param>
/// <param name="IsThis">It is the one that asks.</param>
public sealed record SessionSeen(
    string Id, string Label, bool IsBrowser, DateTimeOffset? MadeAt, DateTimeOffset? SeenAt, DateTimeOffset Ends, bool IsThis);

/// <summary>Another password for one's own account.</summary>
/// <param name="Now">The one that counts until now.</param>
/// <param name="Wanted">The new one.</param>
public sealed record PasswordChange(string Now, string Wanted);

/// <summary>A local account as coordinators see it.</summary>
/// <param name="Refreshes">Keys of the refreshes that it reaches; empty: all.</param>
/// <param name="Person">Key of the person whose own it is; null: nobody's own.</param>
/// <param name="DisabledAt">Since when nobody gets in by it; null: it is in use.</param>
/// <param name="SeenAt">When somebody last worked by it; null: not for as long as that is kept.</param>
/// <param name="Sessions">Where it is signed in, at how many places.</param>
public sealed record AccountSeen(
    string Name, string Shown, string Role, IReadOnlyList<string> Sites, IReadOnlyList<string> Refreshes, string? Person,
    DateTimeOffset? DisabledAt, DateTimeOffset? SeenAt, int Sessions);

/// <summary>Whether somebody gets in by an account.</summary>
public sealed record AccountUse(bool Disabled);

/// <summary>A local account to make or change.</summary>
/// <param name="Password">Null: the one that it has stays.</param>
/// <param name="Person">Of the role person: whose own it is, by their key in the roster of the one refresh that it reaches.</param>
/// <param name="Refreshes">Keys of the refreshes that it reaches; none: all. Null: those that it has stay; a new one reaches
/// all.</param>
public sealed record AccountWanted(
    string Shown, string Role, string? Password, IReadOnlyList<string> Sites, string? Person = null,
    IReadOnlyList<string>? Refreshes = null);
