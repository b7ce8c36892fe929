using YardRelay.Core;

namespace YardRelay.Carriage.Depots.Folders;

internal sealed record DiskLabelProblem() : Problem(
    "disk.label",
    "A label has 1 to 60 characters.");

internal sealed record DiskLabelledProblem(string Stands, string LabelFile) : Problem(
    "disk.labelled",
    $"The disk bears the label '{Stands}' already and keeps it. Use that one, or remove {LabelFile} from it.");

internal sealed record DiskWriteProblem(string Why) : Problem(
    "disk.write",
    $"The label could not be written: {Why}");
