namespace YardRelay.Core.Photos;

internal sealed record PhotoEmptyProblem() : Problem(
    "photo.empty",
    "The photo has 0 bytes. Take it again.");

internal sealed record PhotoKindProblem() : Problem(
    "photo.kind",
    "This is no photo that can be kept. Send a JPEG, PNG or WebP picture that is whole.");

internal sealed record PhotoSizeProblem(int Width, int Height, int MostPixels) : Problem(
    "photo.size",
    $"The photo says that it has {Width} by {Height} pixels. At most {MostPixels:#,0} pixels are taken.");

internal sealed record PhotoLargeProblem(double Megabytes, int MostMegabytes) : Problem(
    "photo.large",
    $"The photo has {Megabytes:0.#} MB; at most {MostMegabytes} MB are taken. Take it with fewer pixels.");
