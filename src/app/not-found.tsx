import Link from "next/link";

export default function NotFound() {
  return (
    <main className="mx-auto flex min-h-full max-w-lg flex-col justify-center gap-4 p-8">
      <h1 className="text-2xl font-semibold">There is nothing here</h1>
      <p className="quiet">
        This project may have been deleted in another tab. What you deleted can be brought back
        right after, from the library.
      </p>
      <Link href="/" className="btn btn-primary self-start">
        Go to the library
      </Link>
    </main>
  );
}
