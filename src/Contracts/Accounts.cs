using System.Text.Json;

namespace YardRelay.Contracts;

/// <summary>Name and password of a local account.</summary>
public sealed record SignIn(string Name, string Password);

/// <summary>Who is asking.</summary>
/// <param name="Role">coordinator, technician, auditor, person or hand.</param>
/// <param name="Sites">Keys of the sites a technician serves; empty for the others.</param>
/// <param name="Refreshes">Keys of the refreshes that the account reaches; empty: all.</param>
/// <param name="IsSecond">Whether a passkey, or a recovery code, was shown beside the password.</param>
/// <param name="IsOfOrganisation">Whether the organisation vouches for the account, which has no password then.</param>
public sealed record Me(
    string Name, string Shown, string Role, IReadOnlyList<string> Sites, IReadOnlyList<string> Refreshes, bool IsSecond = false,
    bool IsOfOrganisation = false);

/// <summary>The password was right; a passkey or a recovery code is to be shown as well.</summary>
/// <param name="Ticket">Goes along with what is shown, within five minutes.</param>
/// <param name="Passkey">Options for the browser: PublicKeyCredentialRequestOptionsJSON of Web Authentication.</param>
/// <param name="CodesLeft">How many recovery codes are left.</param>
public sealed record SecondWanted(string Ticket, JsonElement Passkey, int CodesLeft);

/// <summary>A passkey, or a recovery code in its place.</summary>
/// <param name="Ticket">Of <see cref="SecondWanted"/>.</param>
/// <param name="Passkey">AuthenticationResponseJSON of Web Authentication; null: a code is shown.</param>
/// <param name="Code">A recovery code; each opens once.</param>
public sealed record SecondShown(string Ticket, JsonElement? Passkey = null, string? Code = null);

/// <summary>Begins a passkey for one's own account.</summary>
/// <param name="Password">The account's; null: it has none, as its organisation vouches for it.</param>
public sealed record PasskeyBegin(string? Password);

/// <summary>What the browser makes a passkey from.</summary>
/// <param name="Passkey">PublicKeyCredentialCreationOptionsJSON of Web Authentication.</param>
public sealed record PasskeyBegun(string Ticket, JsonElement Passkey);

/// <summary>A passkey that the browser made.</summary>
/// <param name="Name">What its owner calls it; 1 to 60 characters.</param>
/// <param name="Passkey">RegistrationResponseJSON of Web Authentication.</param>
public sealed record PasskeyWanted(string Ticket, string Name, JsonElement Passkey);

/// <summary>A passkey was added.</summary>
/// <param name="Codes">Recovery codes, with the first passkey; they are shown this once only. Null: those of before count.</param>
public sealed record PasskeyMade(string Id, IReadOnlyList<string>? Codes);

/// <summary>One's own passkeys.</summary>
/// <param name="CodesLeft">How many recovery codes are left.</param>
public sealed record PasskeysSeen(IReadOnlyList<PasskeySeen> Passkeys, int CodesLeft);

/// <summary>A passkey.</summary>
/// <param name="UsedAt">When it last let somebody in; null: not yet.</param>
/// <param name="IsBackedUp">It is in several devices of its owner, as those say.</param>
public sealed record PasskeySeen(string Id, string Name, DateTimeOffset MadeAt, DateTimeOffset? UsedAt, bool IsBackedUp);

/// <summary>New recovery codes; those of before count no more. They are shown this once only.</summary>
public sealed record RecoveryCodes(IReadOnlyList<string> Codes);

/// <summary>A program asks to be let in by somebody who answers in a browser.</summary>
/// <param name="Label">What it is, shown to whoever answers and in lists.</param>
public sealed record AskingWanted(string Label);

/// <summary>It asks.</summary>
/// <param name="Code">What both show, so that nobody lets another one in.</param>
/// <param name="Secret">What it fetches its token with.</param>
/// <param name="Path">Page of the console where it is answered.</param>
public sealed record Asking(string Code, string Secret, string Path, DateTimeOffset Until);

/// <summary>A program that asks to be let in, as whoever answers sees it.</summary>
/// <param name="From">The address that it asks from; null: nobody knows.</param>
public sealed record AskingSeen(string Code, string Label, string? From, DateTimeOffset MadeAt);

/// <summary>Fetches the token of a program that asked.</summary>
public sealed record AskingFetch(string Secret);

/// <summary>Whether whoever works in a refresh shows a passkey, too.</summary>
public sealed record SecondAsk(bool Asked);

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
    DateTimeOffset? DisabledAt, DateTimeOffset? SeenAt, int Sessions)
{
    /// <summary>How many passkeys it has.</summary>
    public int Passkeys { get; init; }

    /// <summary>Its identity provider vouches for it, and says by groups what it may.</summary>
    public bool IsOfOrganisation { get; init; }
}

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

/// <summary>Ways to sign in beside a name and a password.</summary>
/// <param name="Organisation">What people call the organisation's identity provider; null: there is none.</param>
/// <param name="Path">Where a browser goes to sign in there; null: there is none.</param>
public sealed record SignInDoors(string? Organisation, string? Path);

/// <summary>What a group at the organisation's identity provider opens here.</summary>
/// <param name="Name">The group as the provider calls it.</param>
/// <param name="Role">coordinator, technician or auditor; of several the first of these counts.</param>
/// <param name="Sites">For technicians: keys of the sites they serve.</param>
/// <param name="Refreshes">Keys of the refreshes that they reach; empty: all.</param>
public sealed record StaffGroup(string Name, string Role, IReadOnlyList<string> Sites, IReadOnlyList<string> Refreshes);

/// <summary>What a group is to open.</summary>
public sealed record StaffGroupWanted(string Role, IReadOnlyList<string>? Sites = null, IReadOnlyList<string>? Refreshes = null);
