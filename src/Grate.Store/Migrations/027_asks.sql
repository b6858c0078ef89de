-- Into which week a household could be asked, before its time, so that somebody else is not late.
alter table season_bricks add column ask_monday date;
