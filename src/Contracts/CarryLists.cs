using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Folders;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Contracts;

/// <summary>What a survey tells beside the folders: places, programs, the disk. Totals only; no file is named.</summary>
/// <param name="DiskBytes">Size of the disk; null: not known.</param>
public sealed record SurveyResult(ComputerFound Computer, long LargestBytes, long? DiskBytes, long? FreeBytes);

/// <summary>What was there at an earlier survey.</summary>
public sealed record SurveyBefore(DateTimeOffset At, Amount Total);

/// <summary>What is on an old computer.</summary>
/// <param name="Remarks">What a technician has to know before anything is carried, in whole sentences.</param>
/// <param name="Before">The survey before this one: what has grown since; null: this is the first.</param>
public sealed record InventorySeen(
    DateTimeOffset At, Amount Total, long LargestBytes, long? DiskBytes, long? FreeBytes, IReadOnlyList<PlaceFound> Places,
    IReadOnlyList<ProgramFound> Programs, IReadOnlyList<RunningFound> Running, IReadOnlyList<string> Remarks, SurveyBefore? Before);

/// <summary>A line of a carry list.</summary>
/// <param name="Path">Folder or file below what is carried.</param>
/// <param name="Choice">carry, leave-out or not-applicable.</param>
/// <param name="By">Who decided; null: a rule.</param>
/// <param name="Files">What it is about, as far as the last survey or trip tells; null: not known.</param>
public sealed record CarryLine(string Path, string Choice, string Reason, string? By, DateTimeOffset? At, Amount? Files);

/// <summary>What the next trip would do, before it is made.</summary>
/// <param name="Carried">What comes along, as far as known.</param>
/// <param name="TripMinutes">How long a first trip would take, by the depot's rate; null: not surveyed yet.</param>
/// <param name="RoomBytes">Free in the depot, without what is promised to others; null: no bound is known.</param>
/// <param name="Fits">Whether it fits into the depot, and onto the new computer where somebody has looked at that.</param>
/// <param name="Words">In whole sentences.</param>
/// <param name="NewFreeBytes">Free on the new computer's disk when it was last looked at; null: nobody has.</param>
public sealed record CarryReview(
    Amount All, Amount Carried, Amount LeftOut, int? TripMinutes, long? RoomBytes, bool Fits, string Words, long? NewFreeBytes = null);

/// <summary>What comes along and what stays. Everything that no line names comes along.</summary>
/// <param name="Whole">Folders that are carried whole or not at all.</param>
/// <param name="First">What is restored first, in this order.</param>
public sealed record CarryListSeen(
    IReadOnlyList<CarryLine> Lines, IReadOnlyList<string> Whole, IReadOnlyList<string> First, CarryReview Review);

/// <summary>Folders of an old computer, each before what is in it, the larger before the smaller.</summary>
/// <param name="Deeper">Folders that lie deeper than the tree goes; they count in theirs.</param>
public sealed record FoldersSeen(DateTimeOffset At, IReadOnlyList<FolderNode> Folders, int Deeper);

/// <summary>Rules for places.</summary>
/// <param name="Yaml">The refresh's own; null: none.</param>
/// <param name="Rules">How many these are.</param>
/// <param name="Standard">Those that ship with the product.</param>
public sealed record PlaceRulesSeen(string? Yaml, int Rules, string Standard);

/// <summary>Sets the refresh's own rules for places.</summary>
/// <param name="Yaml">The form of those that ship; empty: none.</param>
public sealed record PlaceRulesWanted(string Yaml);

/// <summary>A decision about a folder or file.</summary>
/// <param name="Choice">carry, leave-out, not-applicable, or by-rule, which takes an earlier decision back.</param>
/// <param name="Reason">Why it stays; needed to leave something out.</param>
public sealed record CarryDecision(string Path, string Choice, string? Reason = null);

/// <summary>Changes a carry list: all of it or nothing.</summary>
/// <param name="First">What is restored first; null: as it is.</param>
public sealed record CarryChange(IReadOnlyList<CarryDecision> Decisions, IReadOnlyList<string>? First = null);
