using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;

namespace YardRelay.Contracts;

/// <summary>A personal link that was made. It is shown this once only.</summary>
/// <param name="Address">Whoever opens it first gets the person's page on that device, and nobody else after that; null: it goes by mail.
/// </param>
/// <param name="SentTo">The address on record that it goes to; null: it is to be handed over.</param>
public sealed record PersonLinkMade(string? Address, DateTimeOffset Expires, string? SentTo = null);

/// <summary>Asks for a personal link.</summary>
/// <param name="Way"><c>mail</c>: to the address on record, seen by nobody else; <c>paper</c>: to be handed over by who made it, which is
/// said of all that is done by it.</param>
public sealed record PersonLinkWanted(string Way = "paper");

/// <summary>A personal link as coordinators see it, without its secret.</summary>
/// <param name="State">waits, open, expired or withdrawn.</param>
/// <param name="SeenAt">When its page was last looked at.</param>
public sealed record PersonLinkSeen(
    string State, string MadeBy, DateTimeOffset MadeAt, DateTimeOffset Expires, DateTimeOffset? OpenedAt, DateTimeOffset? SeenAt);

/// <summary>Links of one swap that were withdrawn.</summary>
public sealed record PersonLinksWithdrawn(int Links);

/// <summary>How often links that open nothing were tried.</summary>
/// <param name="Cause">unknown (guessed or altered), expired, withdrawn, or elsewhere (opened on another device before).</param>
public sealed record LinkRefusalsSeen(DateOnly Day, string Cause, long Count);

/// <summary>How somebody without a link that opens comes to their page.</summary>
/// <param name="SignIn">Where their organisation signs them in; null: nowhere.</param>
/// <param name="ByMail">A new link can be asked for by mail.</param>
public sealed record PersonDoors(string? SignIn, bool ByMail);

/// <summary>Asks for a new personal link, by mail to the address that is on record.</summary>
public sealed record LinkWanted(string Mail);

/// <summary>Opens a personal link.</summary>
/// <param name="Secret">What stands behind <c>#</c> in it.</param>
public sealed record PersonLinkOpened(string Secret);

/// <summary>A person's own page: their swap in the words of their day, and what they can do about it.</summary>
/// <param name="Language">en or de.</param>
/// <param name="Steps">What they do themselves and say so.</param>
/// <param name="Now">The service's clock.</param>
/// <param name="Passphrase">Null: the files are not sealed, and none is asked for.</param>
/// <param name="Questions">What they asked or said, and what came of it, the newest first.</param>
/// <param name="HeldUntil">How long the staged files are kept; null: not known yet.</param>
/// <param name="AskWhom">Name of who answers.</param>
/// <param name="NamesAllowed">Whether technicians may see the names of files that did not come along; null: nobody is asked, and they
/// do.</param>
/// <param name="MaySelf">What they may start themselves now: first-trip or restore.</param>
public sealed record PersonPage(
    string Name, string Language, string Refresh, string Zone, DateTimeOffset Now, SwapListed Swap, string? OldModel, string? NewModel,
    IReadOnlyList<StepSeen> Steps,
    InventorySeen? Inventory,
    CarryListSeen? CarryList,
    IReadOnlyList<FolderAccount> Account,
    FolderAccount Total,
    IReadOnlyList<SnagSeen> Snags, SignOffSeen Acceptance, PassphraseSeen? Passphrase, IReadOnlyList<PersonQuestion> Questions,
    DateOnly? HeldUntil, string AskWhom, DateTimeOffset? UrgentReadyAt, DateTimeOffset? RestoredAt, IReadOnlyList<string> MaySelf,
    BookingSeen Booking, bool MailOff, bool? NamesAllowed);

/// <summary>How the passphrase of a sealed parcel stands.</summary>
/// <param name="SetAt">Since when it opens the files; null: none does.</param>
/// <param name="Waits">One was given, and the next trip seals the key with it.</param>
public sealed record PassphraseSeen(DateTimeOffset? SetAt, bool Waits);

/// <summary>What a person asked or said.</summary>
/// <param name="Kind">question, time, missing, folder or erasure.</param>
/// <param name="Answer">What came of it; null: still open.</param>
public sealed record PersonQuestion(
    string Id, string Kind, string Words, DateTimeOffset At, string? Answer, string? AnsweredBy, DateTimeOffset? AnsweredAt);

/// <summary>What a person says.</summary>
/// <param name="Kind">question; time: the appointment does not suit; missing: they do not accept; folder: they filled a folder by hand, and
/// where it lies; erasure: what is kept about them is to be erased.</param>
public sealed record PersonSays(string Kind, string Words);

/// <summary>Says that one of their own steps is done, or not yet.</summary>
public sealed record PersonStep(bool Done);

/// <summary>Accepts: everything is there.</summary>
/// <param name="Facts">What was seen, as the page gave it; where it is another meanwhile, nothing is signed.</param>
/// <param name="Name">Their name, as they write it.</param>
public sealed record PersonAccepts(string Facts, string Name, string? Drawn = null);

/// <summary>Gives the passphrase that is to open the sealed files.</summary>
public sealed record PassphraseWanted(string Passphrase);

/// <summary>The language of the page and of mails.</summary>
/// <param name="Language">en or de.</param>
public sealed record LanguageWanted(string Language);

/// <summary>Whether mail is wanted that the change of the computer could do without.</summary>
public sealed record MailWanted(bool Off);

/// <summary>Asks for one folder or file back, while the parcel is held.</summary>
public sealed record PartWanted(string Path);

/// <summary>Starts a piece of work oneself.</summary>
/// <param name="Kind">first-trip or restore.</param>
public sealed record PersonOrder(string Kind);
