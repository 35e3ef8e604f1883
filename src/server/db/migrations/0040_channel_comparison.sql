CREATE TABLE `channel_comparison` (
	`feed` varchar(190) NOT NULL,
	`asked_at` datetime(3),
	`compared_at` datetime(3),
	`ours` int NOT NULL,
	`theirs` int NOT NULL,
	`differing` int NOT NULL,
	`differences` json NOT NULL,
	`trouble` varchar(300),
	CONSTRAINT `channel_comparison_feed` PRIMARY KEY(`feed`)
);
