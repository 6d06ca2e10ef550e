<?php

declare(strict_types=1);

namespace Quayside\Domain;

use DateTimeImmutable;

final class Booking
{
    public function __construct(
        public readonly Berth $berth,
        public readonly string $vessel,
        public readonly DateTimeImmutable $arrives,
        public readonly DateTimeImmutable $leaves,
    ) {
    }

    public function nights(): int
    {
        return (int) $this->arrives->diff($this->leaves)->days;
    }
}
